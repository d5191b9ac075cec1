<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;

/**
 * How much detail of the size of a texel a surface shows: the energy of the Laplacian of its colour, relief and roughness (Subbarao,
 * Choi and Nikzad 1993), over squares that lie all over it. What mixes several reads of a map takes some of it away.
 */
final readonly class Sharpness
{
    /** Squares, and pixels of a side, of which the outermost have neighbours missing. */
    private const SQUARES = 192;
    private const SIDE = 8;
    /** Metres a side of the square that they lie in. */
    private const SPREAD = 40.0;
    /** Of a texel, from one pixel to the next: so pixels lie everywhere between texels, as they do where maps are shifted. */
    private const PITCH = 0.9236;
    /** Of channels that lie between 0 and 1: what has less has no detail to be lost, some two steps of eight bits. */
    private const NONE = 6.0e-5;

    /** @param array<string, float> $energies of "colour", "relief" and "roughness": mean squares */
    private function __construct(private array $energies)
    {
    }

    /** @param float $texel metres */
    public static function of(Patch $patch, float $texel): self
    {
        $pixel = self::PITCH * $texel;
        $corners = [];
        for ($i = 1; $i <= self::SQUARES; ++$i) {
            $corners[] = [(int) (self::scattered($i, 2) * self::SPREAD / $pixel), (int) (self::scattered($i, 3) * self::SPREAD / $pixel)];
        }
        $found = $patch->squares(static fn (Graph $g, array $channels): array => [
            'colour' => Colour::luminance($g, $channels['baseColour']),
            'right' => $g->dot($channels['slope'], $g->vec(...$patch->plane->right)),
            'down' => $g->dot($channels['slope'], $g->vec(...$patch->plane->down)),
            'roughness' => $channels['roughness'],
        ], $pixel, self::SIDE, $corners);
        $energies = array_map(self::energy(...), $found);

        return new self(['colour' => $energies['colour'], 'relief' => $energies['right'] + $energies['down'], 'roughness' => $energies['roughness']]);
    }

    /**
     * How much of another's detail is there.
     *
     * @return array<string, float> 0…1, by what the other has any of: "colour", "relief", "roughness"
     */
    public function kept(self $before): array
    {
        $kept = [];
        foreach ($before->energies as $what => $energy) {
            if ($energy > self::NONE) {
                $kept[$what] = min(1.0, sqrt($this->energies[$what] / $energy));
            }
        }

        return $kept;
    }

    /** @param list<list<float>> $squares */
    private static function energy(array $squares): float
    {
        $sum = 0.0;
        foreach ($squares as $values) {
            for ($y = 1; $y < self::SIDE - 1; ++$y) {
                for ($x = 1; $x < self::SIDE - 1; ++$x) {
                    $at = $y * self::SIDE + $x;
                    $sum += ($values[$at - 1] + $values[$at + 1] + $values[$at - self::SIDE] + $values[$at + self::SIDE] - 4 * $values[$at]) ** 2;
                }
            }
        }

        return $sum / (\count($squares) * (self::SIDE - 2) ** 2);
    }

    /** 0…1, evenly spread: the radical inverse (Halton 1960). */
    private static function scattered(int $i, int $base): float
    {
        for ($share = 1.0, $sum = 0.0; $i > 0; $i = intdiv($i, $base)) {
            $share /= $base;
            $sum += $share * ($i % $base);
        }

        return $sum;
    }
}
