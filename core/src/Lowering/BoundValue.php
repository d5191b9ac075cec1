<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\NumberBinding;
use Rilta\Core\Material\Values;

/** Values of the document as fields: uniforms, or what follows from the parameters that they are tied to. */
final class BoundValue
{
    /**
     * @param string $path JSON Pointer to the number
     * @param string $name of its uniform
     */
    public static function number(Graph $g, UniformBindings $slots, float|NumberBinding $value, string $path, string $name): Node
    {
        $uniform = static fn (string $at, string $called, float $number): Node => $g->uniform($slots->at($at, $called, $number)->uniform);
        if (!$value instanceof NumberBinding) {
            return $uniform($path, $name, $value);
        }
        $parameter = $uniform($value->parameter->path . '/value', 'parameter_' . Identifier::part($value->parameter->id), $value->parameter->number());
        $scaled = $g->mul($parameter, $uniform("$path/factor", "{$name}_factor", $value->factor));

        return $value->control->holding($g, $g->add($scaled, $uniform("$path/offset", "{$name}_offset", $value->offset)));
    }

    /**
     * @param string $control which of the values
     * @param string $path    JSON Pointer to it
     * @param string $name    of its uniforms
     *
     * @return Node vec3, linear
     */
    public static function colour(Graph $g, UniformBindings $slots, Values $values, string $control, string $path, string $name): Node
    {
        $parameter = $values->follows($control);
        $parts = [];
        foreach ($values->colour($control) as $i => $part) {
            $parts[] = $g->uniform(($parameter === null
                ? $slots->at("$path/$i", "{$name}_$i", $part)
                : $slots->at("$parameter->path/value/$i", 'parameter_' . Identifier::part($parameter->id) . "_$i", $part))->uniform);
        }

        return Colour::decode($g, $g->vec(...$parts));
    }
}
