<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/** What fields are made of. */
final class Reachable
{
    /**
     * The fields and all that they use.
     *
     * @param array<array-key, Node> $fields
     *
     * @return array<int, Node> ascending ids, so that arguments come before what uses them
     */
    public static function from(array $fields): array
    {
        $nodes = [];
        $stack = array_values($fields);
        while ($stack !== []) {
            $node = array_pop($stack);
            if (isset($nodes[$node->id])) {
                continue;
            }
            $nodes[$node->id] = $node;
            foreach ($node->args as $arg) {
                if (!isset($nodes[$arg->id])) {
                    $stack[] = $arg;
                }
            }
        }
        ksort($nodes);

        return $nodes;
    }

    /**
     * The names of the inputs or uniforms among them.
     *
     * @param array<array-key, Node> $fields
     *
     * @return list<string>
     */
    public static function names(Op $op, array $fields): array
    {
        return array_values(array_map(
            static fn (Node $node): string => $node->name(),
            array_filter(self::from($fields), static fn (Node $node): bool => $node->op === $op),
        ));
    }
}
