<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Pass;

use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;

/** What of a loop differs from turn to turn; the rest is computed before it. */
final class Turning
{
    /**
     * @param array<int, Node> $nodes   ascending ids
     * @param list<string>     $turning inputs that differ
     *
     * @return array<int, Node> those that come down to such an input, by id
     */
    public static function of(array $nodes, array $turning): array
    {
        $inside = [];
        foreach ($nodes as $id => $node) {
            $turns = $node->op === Op::Input && \in_array($node->name(), $turning, true);
            foreach ($node->args as $arg) {
                $turns = $turns || isset($inside[$arg->id]);
            }
            if ($turns) {
                $inside[$id] = $node;
            }
        }

        return $inside;
    }
}
