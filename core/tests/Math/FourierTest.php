<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Math;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Math\Fourier;

final class FourierTest extends TestCase
{
    public function testItIsWhatItsDefinitionSaysAndBackItIsThePicture(): void
    {
        $n = 8;
        mt_srand(5);
        $picture = $none = [];
        for ($i = 0; $i < $n * $n; ++$i) {
            $picture[] = mt_rand() / mt_getrandmax();
            $none[] = mt_rand() / mt_getrandmax();
        }
        [$re, $im] = [$picture, $none];
        Fourier::square($re, $im, $n);
        foreach ([[0, 0], [1, 0], [0, 3], [5, 6], [7, 7]] as [$u, $v]) {
            [$a, $b] = [0.0, 0.0];
            for ($y = 0; $y < $n; ++$y) {
                for ($x = 0; $x < $n; ++$x) {
                    $turn = -2 * \M_PI * ($u * $x + $v * $y) / $n;
                    $a += $picture[$y * $n + $x] * cos($turn) - $none[$y * $n + $x] * sin($turn);
                    $b += $picture[$y * $n + $x] * sin($turn) + $none[$y * $n + $x] * cos($turn);
                }
            }
            self::assertEqualsWithDelta([$a, $b], [$re[$v * $n + $u], $im[$v * $n + $u]], 1e-12);
        }
        Fourier::square($re, $im, $n, true);
        self::assertEqualsWithDelta(array_map(static fn (float $one): float => $n * $n * $one, $picture), $re, 1e-11);
        self::assertEqualsWithDelta(array_map(static fn (float $one): float => $n * $n * $one, $none), $im, 1e-11);
    }

    public function testSidesThatAreNoPowerOfTwoAreRefused(): void
    {
        $this->expectExceptionMessage('Expected 6 x 6 numbers, a power of two');
        [$re, $im] = [array_fill(0, 36, 0.0), array_fill(0, 36, 0.0)];
        Fourier::square($re, $im, 6);
    }
}
