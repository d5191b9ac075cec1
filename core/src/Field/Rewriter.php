<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/**
 * Carries fields from one graph into another, putting functions in place of their calls
 * and fields in place of inputs where asked to.
 */
final class Rewriter
{
    /** @var array<int, Node> */
    private array $done;

    /**
     * @param array<string, Node> $inputs      fields of the target graph, by the name of the input they replace
     * @param bool                $inlineCalls whether calls become the bodies of their functions
     * @param array<int, Node>    $fields      fields of the target graph, by the id of the node they replace
     */
    public function __construct(
        private readonly Graph $from,
        private readonly Graph $to,
        private readonly array $inputs = [],
        private readonly bool $inlineCalls = false,
        array $fields = [],
    ) {
        $this->done = $fields;
    }

    public function rewrite(Node $node): Node
    {
        // Arguments have smaller ids than their users, so ascending ids are an order of evaluation.
        $pending = [];
        $stack = [$node];
        while ($stack !== []) {
            $next = array_pop($stack);
            if (isset($this->done[$next->id]) || isset($pending[$next->id])) {
                continue;
            }
            $pending[$next->id] = $next;
            foreach ($next->args as $arg) {
                $stack[] = $arg;
            }
        }
        ksort($pending);
        foreach ($pending as $id => $old) {
            $this->done[$id] = $this->one($old);
            $hint = $this->from->hint($old);
            if ($hint !== null) {
                $this->to->named($hint, $this->done[$id]);
            }
        }

        return $this->done[$node->id];
    }

    private function one(Node $node): Node
    {
        $args = array_map(fn (Node $arg): Node => $this->done[$arg->id], $node->args);
        if ($node->op === Op::Input && isset($this->inputs[$node->name()])) {
            return $this->inputs[$node->name()];
        }
        if ($node->op === Op::Call && $this->inlineCalls) {
            // A function's body may call others: the body is built here and rewritten in its turn.
            $scratch = new Graph();
            $params = [];
            foreach ($args as $i => $arg) {
                $params[] = $scratch->input('#' . $i, $arg->type);
            }
            $bindings = [];
            foreach ($args as $i => $arg) {
                $bindings['#' . $i] = $arg;
            }

            return (new self($scratch, $this->to, $bindings, true))->rewrite(($node->callee()->build)($scratch, $params));
        }

        return $this->to->rebuild($node, $args);
    }
}
