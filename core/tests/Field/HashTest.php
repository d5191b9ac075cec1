<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Field;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Arithmetic;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Hash;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Rewriter;

final class HashTest extends TestCase
{
    public function testProductsWrapAt32Bits(): void
    {
        $products = [[0xFFFFFFFF, 0xFFFFFFFF, 1], [1664525, 3735928559, 775744547], [0x12345678, 0x9ABCDEF0, 606937216]];
        foreach ($products as [$a, $b, $product]) {
            self::assertSame($product, Arithmetic::multiply($a, $b));
            self::assertSame($product, Arithmetic::scalar(Op::Mul, [$a, $b]));
        }
    }

    public function testPcg3dFollowsThePaperStepByStep(): void
    {
        $m = static fn (int $a, int $b): int => Arithmetic::multiply($a, $b);
        $w = static fn (int $a): int => $a & 0xFFFFFFFF;
        [$x, $y, $z] = array_map(static fn (int $c): int => $w($m($c, 1664525) + 1013904223), [7, 4294967290, 99]);
        $stir = static function () use (&$x, &$y, &$z, $m, $w): void {
            $x = $w($x + $m($y, $z));
            $y = $w($y + $m($z, $x));
            $z = $w($z + $m($x, $y));
        };
        $stir();
        [$x, $y, $z] = [$x ^ ($x >> 16), $y ^ ($y >> 16), $z ^ ($z >> 16)];
        $stir();

        $g = new Graph();
        $hash = (new Rewriter($g, $g, [], true))->rewrite(Hash::pcg3d($g, $g->vec($g->uint(7), $g->uint(4294967290), $g->uint(99))));
        self::assertSame([$x, $y, $z], $hash->constants());
    }
}
