<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Pass;

use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;

/** How often each node is used, by others or as an output: what is used more than once gets a name. */
final class UseCounts
{
    /**
     * @param array<int, Node>       $nodes
     * @param array<array-key, Node> $outputs
     *
     * @return array<int, int> by id
     */
    public static function of(array $nodes, array $outputs): array
    {
        $uses = [];
        foreach ($nodes as $node) {
            foreach ($node->args as $i => $arg) {
                // What a read is guarded by stands in a condition around it.
                $uses[$arg->id] = ($uses[$arg->id] ?? 0) + ($node->op === Op::Sample && $i === 3 ? 2 : 1);
            }
        }
        foreach ($outputs as $output) {
            $uses[$output->id] = ($uses[$output->id] ?? 0) + 1;
        }

        return $uses;
    }
}
