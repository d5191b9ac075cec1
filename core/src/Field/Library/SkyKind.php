<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Math\Vec;

/** The surroundings that a material can be judged in: what shines from where, and the sun or lamp that throws the shadows. */
enum SkyKind: string
{
    case ClearDay = 'clear-day';
    case LowSun = 'low-sun';
    case Overcast = 'overcast';
    case Hall = 'hall';

    public function label(): string
    {
        return match ($this) {
            self::ClearDay => 'Clear day',
            self::LowSun => 'Low sun',
            self::Overcast => 'Overcast',
            self::Hall => 'Lamp-lit hall',
        };
    }

    /**
     * The sun that belongs to it, or the lamp in its place.
     *
     * @return array{turn: float, height: float, strength: float, colour: array{float, float, float}} degrees to the right of -z and above the
     *                                                                                                horizon; what falls on a plane that faces it, where π makes a white one shine with 1; linear
     */
    public function sun(): array
    {
        return match ($this) {
            self::ClearDay => ['turn' => -139.4, 'height' => 44.3, 'strength' => 3.0, 'colour' => [1.12, 0.98, 0.78]],
            self::LowSun => ['turn' => -122.0, 'height' => 15.4, 'strength' => 3.4, 'colour' => [1.0, 0.66, 0.36]],
            self::Overcast => ['turn' => -139.4, 'height' => 55.0, 'strength' => 0.5, 'colour' => [1.0, 1.0, 1.0]],
            self::Hall => ['turn' => -118.6, 'height' => 51.2, 'strength' => 1.5, 'colour' => [1.0, 0.92, 0.82]],
        };
    }

    /**
     * What the functions of `Sky` are given: linear light of five levels from below to above; where they meet, as the sine of the height,
     * and how softly; soft lobes by direction, light and width, of which the last lies around the sun.
     *
     * @return array<string, list<float>> by the names of `Sky::FIELDS`
     */
    public function numbers(): array
    {
        [$levels, $edges, $lobes] = $this->made();
        $numbers = [];
        foreach ($levels as $i => $level) {
            $numbers["level$i"] = $level;
        }
        $numbers['edges'] = array_column($edges, 0);
        $numbers['softness'] = array_map(static fn (array $edge): float => $edge[1] ** 2, $edges);
        foreach ($lobes as $i => [$toward, $glow]) {
            $numbers["glow$i"] = $glow;
            if ($i < \count($lobes) - 1) {
                $numbers["toward$i"] = Vec::unit($toward);
            }
        }
        $numbers['widths'] = array_map(static fn (array $lobe): float => $lobe[2] ** 2, $lobes);

        return $numbers + self::bands($levels, $numbers['edges'], $numbers['softness'], $numbers['widths']);
    }

    /**
     * The lowest three bands of spherical harmonics (Ramamoorthi and Hanrahan 2001), as Legendre coefficients about the axis that each part
     * is round about.
     *
     * @param list<list<float>> $levels
     * @param list<float>       $edges
     * @param list<float>       $softness
     * @param list<float>       $widths
     *
     * @return array<string, list<float>>
     */
    private static function bands(array $levels, array $edges, array $softness, array $widths): array
    {
        $steps = array_map(static fn (float $edge, float $soft): array => self::legendre(static fn (float $y): float => self::step($y, $edge, $soft)), $edges, $softness);
        $bands = [];
        foreach ([0, 1, 2] as $band) {
            foreach ([0, 1, 2] as $c) {
                $sum = $band === 0 ? $levels[0][$c] : 0.0;
                foreach ($steps as $i => $step) {
                    $sum += ($levels[$i + 1][$c] - $levels[$i][$c]) * $step[$band];
                }
                $bands["band$band"][] = $sum;
            }
        }
        foreach ($widths as $i => $width) {
            $bands["spread$i"] = self::legendre(static fn (float $c): float => ($width / ($width + 2 * (1 - $c))) ** 2);
        }

        return $bands;
    }

    /** As `Sky` has it. */
    private static function step(float $y, float $edge, float $soft): float
    {
        $s = static fn (float $x): float => $x / sqrt($x * $x + $soft);

        return ($s($y - $edge) - $s(-1 - $edge)) / ($s(1 - $edge) - $s(-1 - $edge));
    }

    /**
     * @param \Closure(float): float $f of the cosine of the angle to the axis
     *
     * @return list<float> of the first three Legendre polynomials
     */
    private static function legendre(\Closure $f, int $parts = 2000): array
    {
        $z = [0.0, 0.0, 0.0];
        for ($i = 0; $i < $parts; ++$i) {
            $c = -1 + 2 * ($i + 0.5) / $parts;
            $v = $f($c) / $parts;
            $z[0] += $v;
            $z[1] += 3 * $v * $c;
            $z[2] += 5 * $v * (1.5 * $c * $c - 0.5);
        }

        return $z;
    }

    /** @return array{list<array{float, float, float}>, list<array{float, float}>, list<array{array{float, float, float}, array{float, float, float}, float}>} */
    private function made(): array
    {
        return match ($this) {
            self::ClearDay => [
                [[0.19, 0.175, 0.15], [0.15, 0.16, 0.13], [0.84, 0.86, 0.88], [0.60, 0.69, 0.82], [0.30, 0.41, 0.60]],
                [[-0.02, 0.02], [0.03, 0.02], [0.12, 0.12], [0.5, 0.35]],
                [[[-0.62, 0.30, 0.55], [0.55, 0.55, 0.55], 0.30], [[0.72, 0.24, -0.45], [0.45, 0.45, 0.46], 0.26], [[0.35, 0.45, 0.85], [0.35, 0.35, 0.36], 0.42], [[0.0, 1.0, 0.0], [2.2, 2.0, 1.6], 0.16]],
            ],
            self::LowSun => [
                [[0.15, 0.12, 0.105], [0.10, 0.09, 0.09], [1.05, 0.68, 0.40], [0.62, 0.52, 0.55], [0.20, 0.26, 0.42]],
                [[-0.02, 0.02], [0.03, 0.02], [0.10, 0.10], [0.42, 0.3]],
                [[[-0.7, 0.2, 0.4], [0.65, 0.35, 0.2], 0.3], [[0.6, 0.18, 0.5], [0.3, 0.2, 0.2], 0.3], [[0.2, 0.35, -0.9], [0.2, 0.15, 0.17], 0.4], [[0.0, 1.0, 0.0], [3.2, 1.9, 0.9], 0.26]],
            ],
            self::Overcast => [
                [[0.165, 0.16, 0.15], [0.20, 0.20, 0.195], [0.46, 0.48, 0.50], [0.70, 0.72, 0.74], [0.96, 0.97, 0.98]],
                [[-0.02, 0.02], [0.03, 0.03], [0.2, 0.25], [0.65, 0.5]],
                [[[-0.4, 0.6, 0.6], [0.14, 0.14, 0.14], 0.6], [[0.7, 0.4, -0.4], [0.08, 0.08, 0.08], 0.5], [[0.3, 0.5, 0.8], [0.06, 0.06, 0.06], 0.5], [[0.0, 1.0, 0.0], [0.3, 0.3, 0.29], 0.7]],
            ],
            self::Hall => [
                [[0.13, 0.11, 0.09], [0.10, 0.09, 0.08], [0.24, 0.215, 0.185], [0.30, 0.28, 0.25], [0.18, 0.175, 0.165]],
                [[-0.25, 0.12], [0.0, 0.06], [0.3, 0.2], [0.72, 0.12]],
                [[[0.55, 0.78, 0.30], [3.0, 2.65, 2.15], 0.27], [[0.0, 0.74, -0.67], [2.5, 2.2, 1.8], 0.27], [[0.93, 0.20, 0.30], [1.1, 1.3, 1.6], 0.34], [[0.0, 1.0, 0.0], [3.0, 2.65, 2.15], 0.27]],
            ],
        };
    }
}
