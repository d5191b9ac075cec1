<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Check;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Check\Eyesight;
use Rilta\Core\Check\Repetition;

/** Pictures of which it is known how much of them comes again, and where. */
final class RepetitionTest extends TestCase
{
    private const N = 64;

    /** @return iterable<string, array{list<list<float>>, float, float}> */
    public static function tiles(): iterable
    {
        yield 'noise in 16 x 16' => [self::noise(16, 16, 3), 16.0, 0.0];
        yield 'noise in 20 x 13: the shorter way' => [self::noise(20, 13, 4), 0.0, 13.0];
        yield 'a dot' => [array_map(static fn (int $y): array => array_map(static fn (int $x): float => $x === 2 && $y === 2 ? 1.0 : 0.0, range(0, 11)), range(0, 11)), 12.0, 0.0];
    }

    /** @param list<list<float>> $tile */
    #[DataProvider('tiles')]
    public function testATileThatRepeatsExactlyIsOneAtItsSize(array $tile, float $right, float $down): void
    {
        $found = Repetition::of(self::picture(static fn (int $x, int $y): float => $tile[$y % \count($tile)][$x % \count($tile[0])]), self::N);
        self::assertEqualsWithDelta(1.0, $found->score, 1e-9);
        self::assertEqualsWithDelta([$right, $down], [$found->right, $found->down], 0.25);
    }

    public function testNoiseDoesNotComeAgain(): void
    {
        $noise = self::noise(self::N, self::N, 7);
        self::assertLessThan(0.1, Repetition::of(self::picture(static fn (int $x, int $y): float => $noise[$y][$x]), self::N)->score);
    }

    /** Where a window shows one joint, its two edges are like each other, and yet nothing there comes again. */
    public function testTheTwoEdgesOfOneJointAreNoRepeat(): void
    {
        $noise = self::noise(self::N, self::N, 7);
        $joints = static fn (int $first, int $apart): \Closure => static function (int $x, int $y) use ($noise, $first, $apart): float {
            $across = ($y - $first - (int) round(2 * sin($x / 5) + 1.2 * sin($x / 2.3)) + $apart) % $apart;

            return 0.2 * $noise[$y][$x] + ($across === 0 ? 1.0 : 0.0) + ($across === 8 ? 0.8 : 0.0);
        };
        self::assertLessThan(0.2, Repetition::of(self::picture($joints(28, 1000)), self::N)->score);
        // A row of such joints is one.
        $row = Repetition::of(self::picture($joints(6, 20)), self::N);
        self::assertGreaterThan(0.7, $row->score);
        self::assertEqualsWithDelta([0.0, 20.0], [$row->right, $row->down], 0.5);
    }

    /** The less of a picture is the tile, the less comes again. */
    public function testMoreNoiseOverTheTileIsALowerScore(): void
    {
        [$tile, $noise] = [self::noise(16, 16, 3), self::noise(self::N, self::N, 8)];
        $before = 1.0;
        foreach ([0.25, 0.5, 0.75] as $share) {
            $found = Repetition::of(self::picture(static fn (int $x, int $y): float => (1 - $share) * $tile[$y % 16][$x % 16] + $share * $noise[$y][$x]), self::N);
            // Of two that do not depend on each other, what is shared is the share of the power.
            self::assertEqualsWithDelta((1 - $share) ** 2 / ((1 - $share) ** 2 + $share ** 2), $found->score, 0.12);
            self::assertLessThan($before, $found->score);
            $before = $found->score;
        }
    }

    /** Stripes are like themselves wherever one looks along them: they make no more of what comes again. */
    public function testWhatHangsTogetherAllTheWayIsNoPartOfTheScore(): void
    {
        [$tile, $noise] = [self::noise(self::N, 16, 3), self::noise(self::N, self::N, 8)];
        $score = static fn (float $band): float => Repetition::of(self::picture(static fn (int $x, int $y): float => $tile[$y % 16][$x] + 0.7 * $noise[$y][$x] + ($x % 5 === 0 ? $band : 0.0)), self::N)->score;
        self::assertEqualsWithDelta($score(0.0), $score(0.7), 0.05);
    }

    /** @return iterable<string, array{float}> */
    public static function turns(): iterable
    {
        yield from ['7°' => [7.0], '20°' => [20.0], '33°' => [33.0], '41°' => [41.0]];
    }

    #[DataProvider('turns')]
    public function testTheDirectionOfATurnedLatticeIsToldWithinTwoDegrees(float $turn): void
    {
        [$cos, $sin] = [cos(deg2rad($turn)), sin(deg2rad($turn))];
        $wave = static fn (float $p, float $size): float => exp(3 * cos(2 * \M_PI * $p / $size));
        // Soft dots, 11 pixels apart along one way and 17 along the other.
        $found = Repetition::of(self::picture(static fn (int $x, int $y): float => $wave($cos * $x + $sin * $y, 11.0) * $wave($cos * $y - $sin * $x, 17.0)), self::N);
        self::assertGreaterThan(0.9, $found->score);
        self::assertEqualsWithDelta($turn, rad2deg(atan2($found->down, $found->right)), 2.0);
        self::assertEqualsWithDelta(11.0, hypot($found->right, $found->down), 0.5);
    }

    /** Mannos and Sakrison give 0.0499 at no cycles, 0.98 at 8, and hardly anything beyond 60. */
    public function testTheEyeSeesSomeFrequenciesBetterThanOthers(): void
    {
        self::assertEqualsWithDelta(2.6 * 0.0192, Eyesight::sensitivity(0.0) * 0.98, 0.001);
        foreach ([4.0, 6.0, 7.5, 8.5, 12.0, 20.0] as $cycles) {
            self::assertLessThan(1.0, Eyesight::sensitivity($cycles));
        }
        self::assertLessThan(0.02, Eyesight::sensitivity(60.0));
    }

    /** The same stripes from two distances: as far away as their frequency is seen best, they are as high as they were. */
    public function testWhatIsNoticedDependsOnTheAngle(): void
    {
        $stripes = self::picture(static fn (int $x): float => 5 + sin(2 * \M_PI * $x / 8));
        foreach ([[1 / 8 / 7.9, 1.0], [1 / 8 / 2.0, Eyesight::sensitivity(2.0)], [1 / 8 / 30.0, Eyesight::sensitivity(30.0)]] as [$degrees, $share]) {
            [$blank, $seen, $again] = Eyesight::of([array_fill(0, self::N ** 2, 4.0), $stripes, $stripes], self::N, $degrees);
            self::assertEqualsWithDelta($seen, $again, 1e-12);
            self::assertEqualsWithDelta(0.0, max(0.0, ...$blank), 1e-12);
            // Away from the borders.
            $middle = array_map(static fn (int $x): float => $seen[self::N * 32 + $x], range(24, 39));
            self::assertEqualsWithDelta($share, (max($middle) - min($middle)) / 2, 0.06);
        }
    }

    /** @return list<list<float>> rows */
    private static function noise(int $width, int $height, int $seed): array
    {
        mt_srand($seed);

        return array_map(static fn (): array => array_map(static fn (): float => mt_rand() / mt_getrandmax() - 0.5, range(1, $width)), range(1, $height));
    }

    /**
     * @param \Closure(int, int): float $at
     *
     * @return list<float> without its mean
     */
    private static function picture(\Closure $at): array
    {
        $all = [];
        for ($y = 0; $y < self::N; ++$y) {
            for ($x = 0; $x < self::N; ++$x) {
                $all[] = $at($x, $y);
            }
        }
        $mean = array_sum($all) / \count($all);

        return array_map(static fn (float $one): float => $one - $mean, $all);
    }
}
