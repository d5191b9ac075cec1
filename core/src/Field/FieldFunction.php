<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/**
 * A named, reusable field with parameters. Shader targets print it once as a function;
 * the PHP target writes its body in place.
 */
final class FieldFunction
{
    /** @var array{Graph, list<Node>, Node}|null */
    private ?array $body = null;

    /**
     * @param string                            $name   an identifier, the same in every target
     * @param string                            $doc    one line: meaning, range, source
     * @param array<string, Type>               $params
     * @param \Closure(Graph, list<Node>): Node $build
     */
    public function __construct(
        public readonly string $name,
        public readonly string $doc,
        public readonly array $params,
        private readonly \Closure $build,
    ) {
    }

    /**
     * Builds the body in the given graph, with the arguments in place of the parameters.
     *
     * @param list<Node> $args
     */
    public function inline(Graph $graph, array $args): Node
    {
        return ($this->build)($graph, $args);
    }

    /**
     * The function on its own: its graph, its parameters and its result.
     *
     * @return array{Graph, list<Node>, Node}
     */
    public function body(): array
    {
        if ($this->body === null) {
            $graph = new Graph();
            $params = [];
            foreach ($this->params as $name => $type) {
                $params[] = $graph->param($name, $type);
            }
            $this->body = [$graph, $params, ($this->build)($graph, $params)];
        }

        return $this->body;
    }

    public function returns(): Type
    {
        return $this->body()[2]->type;
    }
}
