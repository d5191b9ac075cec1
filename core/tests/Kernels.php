<?php

declare(strict_types=1);

namespace Rilta\Core\Tests;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;

/** Runs fields through the PHP target, for tests. */
final class Kernels
{
    public static function compiler(): Compiler
    {
        return new Compiler(\dirname(__DIR__, 2) . '/var/test/kernels');
    }

    /**
     * The components of a field whose inputs each have one value.
     *
     * @param array<string, list<float>>                            $inputs
     * @param array<string, float|int>                              $uniforms
     * @param array<string, array<int, int>|\ArrayAccess<int, int>> $maps
     *
     * @return list<float|int>
     */
    public static function value(Graph $g, Node $field, array $inputs = [], array $uniforms = [], array $maps = []): array
    {
        return self::values($g, ['it' => $field], $inputs, $uniforms, $maps)['it'];
    }

    /**
     * @param array<string, Node>                                   $fields
     * @param array<string, list<float>>                            $inputs
     * @param array<string, float|int>                              $uniforms
     * @param array<string, array<int, int>|\ArrayAccess<int, int>> $maps
     *
     * @return array<string, list<float|int>>
     */
    public static function values(Graph $g, array $fields, array $inputs = [], array $uniforms = [], array $maps = []): array
    {
        $found = self::compiler()->compile($g, $fields, array_map(static fn (): Binding => Binding::Constant, $inputs))
            ->points(1, $uniforms, $maps, $inputs);

        return array_map(static fn (array $parts): array => array_map(static fn (array $one): float|int => $one[0], $parts), $found);
    }
}
