<?php

declare(strict_types=1);

namespace Rilta\Core\Target;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Target\Php\Binding;

/** Turns fields into programs that compute them here, for many points at once. */
interface Engine
{
    /** A word for people and for files: "php" or "c". */
    public function name(): string;

    /**
     * @param array<string, Node>    $outputs  fields of the graph, by name
     * @param array<string, Binding> $bindings where each input comes from, by name
     */
    public function compile(Graph $graph, array $outputs, array $bindings): Program;
}
