<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Pass;

use Rilta\Core\Field\Node;

/**
 * Several fields of which one is asked for: in which order they come, and what is computed before each. What more than one of them needs
 * is computed once, as late as possible; what only one needs, only for that one.
 */
final readonly class CommonBranches
{
    /**
     * @param list<string>                                                 $order  names of the fields
     * @param list<array{common: array<int, Node>, own: array<int, Node>}> $groups for each in that order; ascending ids
     */
    private function __construct(public array $order, public array $groups)
    {
    }

    /**
     * @param array<int, Node>    $nodes  all that they are made of, ascending ids
     * @param array<string, Node> $fields by name
     */
    public static function of(array $nodes, array $fields): self
    {
        $shared = self::shared($nodes, array_values($fields));
        $last = self::lastShared($nodes, $shared);
        $order = array_keys($fields);
        usort($order, static fn (string $a, string $b): int => $last[$fields[$a]->id] <=> $last[$fields[$b]->id]);
        $byFirst = self::byFirst($nodes, array_map(static fn (string $name): Node => $fields[$name], $order));
        $groups = [];
        foreach (array_keys($order) as $place) {
            $all = $byFirst[$place] ?? [];
            $groups[] = ['common' => array_intersect_key($all, $shared), 'own' => array_diff_key($all, $shared)];
        }

        return new self($order, $groups);
    }

    /**
     * The nodes that more than one of the fields needs.
     *
     * @param array<int, Node> $nodes  ascending ids
     * @param list<Node>       $fields
     *
     * @return array<int, true> by id
     */
    private static function shared(array $nodes, array $fields): array
    {
        $owner = $shared = [];
        foreach ($fields as $n => $field) {
            if (isset($owner[$field->id])) {
                $shared[$field->id] = true;
            }
            $owner[$field->id] = $n;
        }
        foreach (array_reverse($nodes, true) as $id => $node) {
            $mine = isset($shared[$id]) ? -1 : $owner[$id];
            foreach ($node->args as $arg) {
                if (($owner[$arg->id] ??= $mine) !== $mine || $mine === -1) {
                    $shared[$arg->id] = true;
                }
            }
        }

        return $shared;
    }

    /**
     * The last of the shared nodes that each node needs, itself among them.
     *
     * @param array<int, Node> $nodes  ascending ids
     * @param array<int, true> $shared
     *
     * @return array<int, int> ids by id; -1 for none
     */
    private static function lastShared(array $nodes, array $shared): array
    {
        $last = [];
        foreach ($nodes as $id => $node) {
            $last[$id] = -1;
            if (isset($shared[$id])) {
                $last[$id] = $id;
                continue;
            }
            foreach ($node->args as $arg) {
                if ($last[$arg->id] > $last[$id]) {
                    $last[$id] = $last[$arg->id];
                }
            }
        }

        return $last;
    }

    /**
     * The nodes by the first field that needs them.
     *
     * @param array<int, Node> $nodes  ascending ids
     * @param list<Node>       $fields
     *
     * @return array<int, array<int, Node>> ascending ids, by the places of fields
     */
    private static function byFirst(array $nodes, array $fields): array
    {
        $first = [];
        foreach ($fields as $place => $field) {
            $first[$field->id] ??= $place;
        }
        foreach (array_reverse($nodes, true) as $id => $node) {
            foreach ($node->args as $arg) {
                if (!isset($first[$arg->id]) || $first[$arg->id] > $first[$id]) {
                    $first[$arg->id] = $first[$id];
                }
            }
        }
        $groups = [];
        foreach ($nodes as $id => $node) {
            $groups[$first[$id]][$id] = $node;
        }

        return $groups;
    }
}
