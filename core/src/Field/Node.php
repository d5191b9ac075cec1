<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/**
 * One field: an operation on other fields. Nodes only hold; a Graph makes them, printers print them,
 * a Rewriter changes them. Within one graph, two nodes with the same content are the same object.
 */
final readonly class Node
{
    /**
     * @param int                                                           $id   unique in its graph; arguments have smaller ids than what uses them
     * @param list<Node>                                                    $args
     * @param list<float|int|bool>|string|FieldFunction|TextureBinding|null $data constants, names, swizzles, the map, the function
     */
    public function __construct(
        public int $id,
        public Op $op,
        public Type $type,
        public array $args = [],
        public array|string|FieldFunction|TextureBinding|null $data = null,
    ) {
    }

    public function isConstant(): bool
    {
        return $this->op === Op::Constant;
    }

    /**
     * The components of a constant.
     *
     * @return list<float|int|bool>
     */
    public function constants(): array
    {
        return \is_array($this->data) ? $this->data : throw new \LogicException('Not a constant.');
    }

    /** The name of an input, uniform or parameter, or the letters of a swizzle. */
    public function name(): string
    {
        return \is_string($this->data) ? $this->data : throw new \LogicException('This node has no name.');
    }

    public function map(): TextureBinding
    {
        return $this->data instanceof TextureBinding ? $this->data : throw new \LogicException('This node reads no map.');
    }

    public function callee(): FieldFunction
    {
        return $this->data instanceof FieldFunction ? $this->data : throw new \LogicException('This node calls nothing.');
    }

    /** Whether every component of a constant equals the number. */
    public function is(float|int $number): bool
    {
        if (!$this->isConstant()) {
            return false;
        }
        foreach ($this->constants() as $value) {
            if (\is_bool($value) || (float) $value !== (float) $number) {
                return false;
            }
        }

        return true;
    }
}
