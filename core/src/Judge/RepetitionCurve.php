<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Check\Eyesight;
use Rilta\Core\Check\Repetition;

/**
 * How much of a surface comes again, over the distance from which it is seen: luminance in daylight, weighed by the contrast sensitivity
 * of the eye (Mannos and Sakrison 1974), correlated with itself (Wiener and Khinchin).
 */
final readonly class RepetitionCurve
{
    /** Metres: what is there at once. */
    public const FEW = [0.5, 2.0, 8.0, 32.0, 128.0, 500.0];
    /** Metres: what follows. */
    public const MANY = [0.5, 1.0, 2.0, 4.0, 8.0, 16.0, 32.0, 64.0, 128.0, 256.0, 500.0];
    /** Pixels a side. */
    public const SIDE = 64;
    /** Degrees that are looked at: what one takes in without moving the eye, and what one looks at. */
    private const FIELDS = [32.0, 8.0];
    /** From this score on a repeat is noticed. */
    public const NOTICED = 0.3;
    /** Share of the highest score from which on scores are alike. */
    private const ALIKE = 0.9;
    /** The least contrast that the eye sees, where it sees best: 1 in 200 (Robson 1966; Barten 1999). */
    private const LEAST = 0.005;

    /** @param non-empty-list<RepetitionAt> $places from near to far */
    private function __construct(public array $places)
    {
    }

    /**
     * @param positive-int          $n         pixels a side, a power of two
     * @param non-empty-list<float> $distances metres, from near to far
     */
    public static function of(Patch $patch, int $n = self::SIDE, array $distances = self::FEW): self
    {
        $places = [];
        foreach (self::FIELDS as $degrees) {
            $pictures = array_map(static fn (float $distance): array => $patch->seen(self::across($degrees, $distance), $distance, $n), $distances);
            foreach (Eyesight::of($pictures, $n, $degrees / $n) as $i => $seen) {
                $place = self::place($distances[$i], self::across($degrees, $distances[$i]) / $n, array_sum($pictures[$i]) / ($n * $n), $seen, $n);
                if (!isset($places[$i]) || $place->score > $places[$i]->score) {
                    $places[$i] = $place;
                }
            }
        }

        return new self($places === [] ? throw new \LogicException('No distance was asked for.') : array_values($places));
    }

    /** Metres; the same for one field as for a fourth of it from four times as far away. */
    private static function across(float $degrees, float $distance): float
    {
        return 2 * tan(deg2rad(self::FIELDS[0] / 2)) * $distance * $degrees / self::FIELDS[0];
    }

    /**
     * @param float       $pixel metres
     * @param list<float> $seen  n² numbers, as the eye weighs them
     */
    private static function place(float $distance, float $pixel, float $mean, array $seen, int $n): RepetitionAt
    {
        $contrast = sqrt(array_sum(array_map(static fn (float $one): float => $one * $one, $seen))) / $n / max($mean, 1e-6);
        $found = Repetition::of($seen, $n);
        $direction = rad2deg(atan2(-$found->down, $found->right));

        return new RepetitionAt(
            $distance,
            // What is too faint to be seen is not seen to come again.
            $found->score * min(1.0, $contrast / self::LEAST),
            $pixel * hypot($found->right, $found->down),
            $direction > 90 ? $direction - 180 : ($direction <= -90 ? $direction + 180 : $direction),
            $contrast,
        );
    }

    /** The place at which most of it comes again; of several alike the nearest, from where its length is seen best. */
    public function worst(): RepetitionAt
    {
        $most = max(array_map(static fn (RepetitionAt $one): float => $one->score, $this->places));

        return array_values(array_filter($this->places, static fn (RepetitionAt $one): bool => $one->score >= self::ALIKE * $most))[0];
    }

    /**
     * The distances between which the repeat is noticed without a break, around the worst of them.
     *
     * @return ?array{float, float} metres; null where none is noticed
     */
    public function noticed(): ?array
    {
        $worst = array_search($this->worst(), $this->places, true);
        if ($this->places[(int) $worst]->score < self::NOTICED) {
            return null;
        }

        return [$this->end((int) $worst, -1), $this->end((int) $worst, 1)];
    }

    /** Where the score falls below what is noticed, in metres, from a place on; between two places on a straight line over the logarithm of the distance. */
    private function end(int $from, int $step): float
    {
        for ($i = $from; isset($this->places[$i + $step]); $i += $step) {
            [$here, $next] = [$this->places[$i], $this->places[$i + $step]];
            if ($next->score < self::NOTICED) {
                $share = ($here->score - self::NOTICED) / ($here->score - $next->score);

                return $here->distance * ($next->distance / $here->distance) ** $share;
            }
        }

        return $this->places[$i]->distance;
    }
}
