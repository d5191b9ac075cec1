<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;

/** Integer hashes: Jarzynski & Olano 2020, "Hash Functions for GPU Rendering", JCGT 9(3). Unsigned 32-bit arithmetic. */
final class Hash
{
    private static ?FieldFunction $pcg2d = null;
    private static ?FieldFunction $pcg3d = null;

    /** Two well-mixed integers from two. */
    public static function pcg2d(Graph $g, Node $v): Node
    {
        self::$pcg2d ??= new FieldFunction(
            'pcg2d',
            'Two hashed integers from two. Jarzynski & Olano 2020.',
            ['v' => Type::Uint2],
            static function (Graph $g, array $a): Node {
                $v = $g->add($g->mul($a[0], $g->uint(1664525)), $g->uint(1013904223));
                [$x, $y] = [$g->x($v), $g->y($v)];
                for ($round = 0; $round < 2; ++$round) {
                    $x = $g->add($x, $g->mul($y, $g->uint(1664525)));
                    $y = $g->add($y, $g->mul($x, $g->uint(1664525)));
                    $x = $g->xor($x, $g->shiftRight($x, 16));
                    $y = $g->xor($y, $g->shiftRight($y, 16));
                }

                return $g->vec($x, $y);
            },
        );

        return $g->call(self::$pcg2d, $v);
    }

    /** Three well-mixed integers from three. */
    public static function pcg3d(Graph $g, Node $v): Node
    {
        self::$pcg3d ??= new FieldFunction(
            'pcg3d',
            'Three hashed integers from three. Jarzynski & Olano 2020.',
            ['v' => Type::Uint3],
            static function (Graph $g, array $a): Node {
                $v = $g->add($g->mul($a[0], $g->uint(1664525)), $g->uint(1013904223));
                $stir = static function (Node $x, Node $y, Node $z) use ($g): array {
                    $x = $g->add($x, $g->mul($y, $z));
                    $y = $g->add($y, $g->mul($z, $x));
                    $z = $g->add($z, $g->mul($x, $y));

                    return [$x, $y, $z];
                };
                $parts = $stir($g->x($v), $g->y($v), $g->z($v));
                $parts = array_map(static fn (Node $c): Node => $g->xor($c, $g->shiftRight($c, 16)), $parts);

                return $g->vec(...$stir(...$parts));
            },
        );

        return $g->call(self::$pcg3d, $v);
    }

    /** A float in 0 (included) … 1 (excluded) of 24 bits, from an integer. */
    public static function unit(Graph $g, Node $hash): Node
    {
        return $g->mul($g->toFloat($g->shiftRight($hash, 8)), 2 ** -24);
    }
}
