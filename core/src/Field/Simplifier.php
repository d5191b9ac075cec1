<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/** What operations come to without being carried out: what is known beforehand, and what leaves things as they are. */
final class Simplifier
{
    /**
     * The operand that an operation leaves as it is, if it does.
     *
     * @param list<Node> $args
     */
    public static function unchanged(Op $op, Type $type, array $args): ?Node
    {
        [$a, $b] = [$args[0], $args[1] ?? $args[0]];
        if ($op === Op::Neg && $a->op === Op::Neg) {
            return $a->args[0];
        }
        if (!$a->isConstant() && !$b->isConstant()) {
            return null;
        }
        $same = match (true) {
            $op === Op::Add && $b->is(0), $op === Op::Sub && $b->is(0), $op === Op::Div && $b->is(1),
            $op === Op::Mul && $b->is(1), $op === Op::Xor && $b->is(0), $op === Op::ShiftRight && $b->is(0) => $a,
            $op === Op::Add && $a->is(0), $op === Op::Mul && $a->is(1) => $b,
            default => null,
        };

        return $same?->type === $type ? $same : null;
    }

    /**
     * The components of what an operation comes to, if they are known.
     *
     * @param list<Node> $args
     *
     * @return list<float|int|bool>|null
     */
    public static function constants(Op $op, Type $type, array $args): ?array
    {
        if ($op === Op::Mul && ($args[0]->is(0) || $args[1]->is(0))) {
            return array_fill(0, $type->width(), $type->scalar() === Type::Uint ? 0 : 0.0);
        }
        if (!self::areConstant($args) || ($op === Op::Div && \in_array(0.0, $args[1]->constants(), true))) {
            return null;
        }
        $values = [];
        for ($c = 0; $c < $type->width(); ++$c) {
            $value = Arithmetic::scalar($op, array_map(
                static fn (Node $n): float|int|bool => $n->constants()[$n->type->width() === 1 ? 0 : $c],
                $args,
            ));
            $values[] = \is_float($value) ? $value + 0.0 : $value; // -0.0 becomes 0.0
        }

        return $values;
    }

    /**
     * The vector that the parts were picked from, if they are all of it in order.
     *
     * @param list<Node> $parts
     */
    public static function wholeOf(array $parts, Type $type): ?Node
    {
        $letters = '';
        foreach ($parts as $part) {
            if ($part->op !== Op::Pick || $part->args[0] !== $parts[0]->args[0]) {
                return null;
            }
            $letters .= $part->name();
        }
        $source = $parts[0]->args[0];

        return $source->type === $type && $letters === substr('xyzw', 0, $type->width()) ? $source : null;
    }

    /** The letter of a constant unit axis; null for any other constant. */
    public static function axisLetter(Node $constant): ?string
    {
        $values = $constant->constants();
        $ones = array_keys($values, 1.0, true);

        return \count($ones) === 1 && \count(array_keys($values, 0.0, true)) === \count($values) - 1 ? 'xyzw'[$ones[0]] : null;
    }

    /** @param list<Node> $nodes */
    public static function areConstant(array $nodes): bool
    {
        foreach ($nodes as $node) {
            if (!$node->isConstant()) {
                return false;
            }
        }

        return true;
    }
}
