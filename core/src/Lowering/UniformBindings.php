<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Type;

/** Collects the uniforms that lowering asks for. */
final class UniformBindings
{
    /** @var array<string, UniformBinding> by path */
    private array $slots = [];

    /** @var array<string, true> */
    private array $names = [];

    /** @var array<string, true> by path */
    private array $fixed = [];

    /** @var array<string, Node> by uniform */
    private array $prepared = [];

    public function at(string $path, string $name, float|int $value, Type $type = Type::Float): UniformBinding
    {
        if (!isset($this->slots[$path])) {
            // Ids that differ in punctuation alone would make the same names.
            while (isset($this->names[$name])) {
                $name .= 'b';
            }
            $this->names[$name] = true;
            $this->slots[$path] = new UniformBinding($name, $path, $value, $type);
        }

        return $this->slots[$path];
    }

    /**
     * A field that is the same all over a picture, as a uniform that is computed once; any other as it is.
     *
     * @param string $name a name for it, if it is free
     */
    public function prepared(Graph $graph, string $name, Node $field): Node
    {
        if ($field->isConstant() || !Prelude::holds($field)) {
            return $field;
        }
        $known = array_search($field, $this->prepared, true);
        if ($known === false) {
            while (isset($this->names[$name])) {
                $name .= 'b';
            }
            $this->names[$name] = true;
            $this->prepared[$name] = $field;
            $known = $name;
        }

        return $graph->uniform($known, $field->type);
    }

    /** Notes that code is made by the value at a path: another value is other code. */
    public function fix(string $path): void
    {
        $this->fixed[$path] = true;
    }

    /** @return list<string> paths of values that code was made by, whether they fill uniforms as well or not */
    public function fixed(): array
    {
        return array_keys($this->fixed);
    }

    public function prelude(): Prelude
    {
        return new Prelude($this->prepared);
    }

    /** @return list<UniformBinding> */
    public function all(): array
    {
        return array_values($this->slots);
    }
}
