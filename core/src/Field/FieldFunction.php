<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/**
 * A named, reusable field with parameters. Shader targets print it once as a function; the PHP target writes its body in place.
 */
final readonly class FieldFunction
{
    /**
     * @param string                            $name    an identifier, the same in every target
     * @param string                            $doc     one line: meaning, range, source
     * @param array<string, Type>               $params
     * @param \Closure(Graph, list<Node>): Node $build   makes its body in a graph, with the arguments in place of the parameters
     * @param list<string>                      $repeats parameters of which whole numbers make no difference
     */
    public function __construct(public string $name, public string $doc, public array $params, public \Closure $build, public array $repeats = [])
    {
    }
}
