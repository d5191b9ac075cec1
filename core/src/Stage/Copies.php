<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Random\Engine\Mt19937;
use Random\Randomizer;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;

/**
 * Copies of an object in a grid, each a little elsewhere and with a seed of its own.
 *
 * @phpstan-type StageObjectJson array{
 *     id: string,
 *     name: string,
 *     mesh: string,
 *     position: array{float, float, float},
 *     turn: array{float, float, float},
 *     scale: array{float, float, float},
 *     seed?: int, // 0…16777215
 *     value?: float, // 0…1
 *     variant?: string,
 *     hidden?: bool, // left out of all pictures for now
 *     locked?: bool, // not taken hold of on the stage
 *     wears?: int, // number of the material that it wears in place of the one that is shown
 *     sections?: list<array{section: string, wears?: int, variant?: string}>, // what sections of its mesh wear by themselves
 *     paint?: string, // what was painted on it, by the SHA-256 of what is kept
 * }
 */
final class Copies
{
    /** Metres from one to the next and aside, degrees, and percent, at most. */
    public const FARTHEST = 1000;
    public const MOST_ASIDE = 100;
    public const MOST_TURN = 180;
    public const MOST_SIZE = 90;

    /** @return list<NumberControl> of one axis (count, spacing) and of all copies (place, turn, size) */
    public static function controls(): array
    {
        return [
            self::number('count', 'Copies', 'How many, with the object itself.', Unit::None, 3.0, 20.0, Stage::MOST_OBJECTS, 1.0, true, 1.0),
            self::number('spacing', 'Metres', 'From one to the next.', Unit::Metres, 2.0, 10.0, self::FARTHEST, 0.1, false, -self::FARTHEST),
            self::number('place', 'Aside by up to', 'How far each may lie beside its place.', Unit::Metres, 0.1, 1.0, self::MOST_ASIDE, 0.05),
            self::number('turn', 'Turned by up to', 'How far each may be turned about the upright axis, to either side.', Unit::Degrees, 5.0, 90.0, self::MOST_TURN, 1.0),
            self::number('size', 'Sized by up to', 'How much larger or smaller each may be.', Unit::Percent, 5.0, 50.0, self::MOST_SIZE, 1.0),
        ];
    }

    /** @return list<NumberControl> of copies all over the surface of another object */
    public static function scattering(): array
    {
        return [
            self::number('count', 'Copies', 'How many lie over the other object.', Unit::None, 20.0, 100.0, Stage::MOST_OBJECTS, 1.0, true, 1.0),
            self::number('slope', 'Not steeper than', 'How far the surface may be turned from level where a copy lies.', Unit::Degrees, 30.0, 90.0, 180.0, 5.0),
            self::number('turn', 'Turned by up to', 'How far each may be turned about the upright axis, to either side.', Unit::Degrees, self::MOST_TURN, self::MOST_TURN, self::MOST_TURN, 5.0),
            self::number('size', 'Sized by up to', 'How much larger or smaller each may be.', Unit::Percent, 20.0, 50.0, self::MOST_SIZE, 1.0),
        ];
    }

    private static function number(string $name, string $label, string $help, Unit $unit, float $value, float $soft, float $hard, float $step, bool $whole = false, float $least = 0.0): NumberControl
    {
        return new NumberControl(new ControlMeta($name, $label, $help), $unit, $value, [max(0.0, $least), $soft], [$least, $hard], $step, whole: $whole);
    }

    /**
     * @param array{int, int, int}       $counts  along x, y and z, with the object itself
     * @param array{float, float, float} $spacing metres from one to the next
     * @param float                      $place   metres that each may lie aside at most, along x and z
     * @param float                      $turn    degrees that each may be turned at most about the upright axis, to either side
     * @param float                      $size    percent that each may be larger or smaller at most
     * @param int                        $seed    another seed, other copies
     * @param list<string>               $taken   ids that there are
     *
     * @return list<Placed> without the object itself
     */
    public static function grid(Placed $object, array $counts, array $spacing, float $place, float $turn, float $size, int $seed, array $taken): array
    {
        $random = new Randomizer(new Mt19937($seed));
        $names = self::names($object, $taken);
        $copies = [];
        for ($y = 0; $y < $counts[1]; ++$y) {
            for ($z = 0; $z < $counts[2]; ++$z) {
                for ($x = 0; $x < $counts[0]; ++$x) {
                    if ($x + $y + $z === 0) {
                        continue;
                    }
                    $factor = 1 + self::aside($random, $size) / 100;
                    $position = [$object->position[0] + $x * $spacing[0] + self::aside($random, $place), $object->position[1] + $y * $spacing[1], $object->position[2] + $z * $spacing[2] + self::aside($random, $place)];
                    $copies[] = self::copy($object, $names, $position, [$object->turn[0], $object->turn[1] + self::aside($random, $turn), $object->turn[2]], $factor, $random);
                }
            }
        }

        return $copies;
    }

    /**
     * Copies of an object all over the surface of another: as many on each square metre that is not too steep.
     *
     * @param Mesh         $mesh  of the other
     * @param float        $slope degrees that the surface may be turned from level
     * @param bool         $leans whether copies stand along the surface's normal, and not upright
     * @param float        $turn  degrees that each may be turned at most about its upright axis, to either side
     * @param float        $size  percent that each may be larger or smaller at most
     * @param list<string> $taken ids that there are
     *
     * @return list<Placed> none if there is no such surface
     */
    public static function over(Placed $object, Placed $other, Mesh $mesh, int $count, float $slope, bool $leans, float $turn, float $size, int $seed, array $taken): array
    {
        $random = new Randomizer(new Mt19937($seed));
        $names = self::names($object, $taken);
        $points = array_map($other->point(...), $mesh->positions->triples());
        $least = cos(deg2rad($slope)) - 1e-9;
        [$corners, $normals, $sums, $sum] = [[], [], [], 0.0];
        for ($t = 0; $t < $mesh->triangles; ++$t) {
            [$a, $b, $c] = array_map(static fn (int $vertex): array => $points[$vertex], $mesh->corners($t));
            $cross = Vec::cross(Vec::sub($b, $a), Vec::sub($c, $a));
            $area = Vec::length($cross);
            if ($area > 1e-12 && $cross[1] / $area >= $least) {
                $corners[] = [$a, $b, $c];
                $normals[] = Vec::scale($cross, 1 / $area);
                $sums[] = $sum += $area;
            }
        }
        $copies = [];
        for ($i = 0; $i < $count && $sum > 0; ++$i) {
            $t = self::at($sums, self::share($random) * $sum);
            // Evenly over a triangle: Turk, Graphics Gems (1990).
            [$root, $v] = [sqrt(self::share($random)), self::share($random)];
            $place = Vec::blend(...[...$corners[$t], [1 - $root, $root * (1 - $v), $root * $v]]);
            $factor = 1 + self::aside($random, $size) / 100;
            $upright = [$object->turn[0], $object->turn[1] + self::aside($random, $turn), $object->turn[2]];
            $copies[] = self::copy($object, $names, $place, $leans ? self::leaning($normals[$t], deg2rad($upright[1])) : $upright, $factor, $random);
        }

        return $copies;
    }

    /**
     * The turns about x, y and z (R = Rx Ry Rz) of what stands along a normal, turned about it first.
     *
     * @param array{float, float, float} $normal
     *
     * @return array{float, float, float} degrees
     */
    private static function leaning(array $normal, float $turn): array
    {
        $side = Vec::length(Vec::cross($normal, [0.0, 0.0, 1.0])) < 1e-6 ? [1.0, 0.0, 0.0] : Vec::unit(Vec::cross($normal, [0.0, 0.0, 1.0]));
        $front = Vec::cross($side, $normal);
        // The columns of the matrix: x and z turned about the normal.
        $x = Vec::sub(Vec::scale($side, cos($turn)), Vec::scale($front, sin($turn)));
        $z = Vec::add(Vec::scale($side, sin($turn)), Vec::scale($front, cos($turn)));
        $y = asin(max(-1.0, min(1.0, $z[0])));

        return [rad2deg(atan2(-$z[1], $z[2])), rad2deg($y), rad2deg(atan2(-$normal[0], $x[0]))];
    }

    /**
     * The first that a number is below.
     *
     * @param list<float> $sums rising
     */
    private static function at(array $sums, float $number): int
    {
        [$low, $high] = [0, \count($sums) - 1];
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            [$low, $high] = $number < $sums[$middle] ? [$low, $middle] : [$middle + 1, $high];
        }

        return $low;
    }

    private static function share(Randomizer $random): float
    {
        return $random->getInt(0, (1 << 30) - 1) / (1 << 30);
    }

    private static function aside(Randomizer $random, float $most): float
    {
        return $most * ($random->getInt(0, 1 << 30) / (1 << 29) - 1);
    }

    /**
     * Ids that are free, with a number each.
     *
     * @param list<string> $taken
     *
     * @return \Generator<int, string>
     */
    private static function names(Placed $object, array $taken): \Generator
    {
        $ids = array_fill_keys($taken, true);
        for ($number = 2;; ++$number) {
            $id = substr($object->id, 0, 50) . "-$number";
            if (!isset($ids[$id])) {
                yield $number => $id;
            }
        }
    }

    /**
     * @param \Generator<int, string>    $names
     * @param array{float, float, float} $position
     * @param array{float, float, float} $turn
     */
    private static function copy(Placed $object, \Generator $names, array $position, array $turn, float $factor, Randomizer $random): Placed
    {
        [$number, $id] = [$names->key(), $names->current()];
        $names->next();

        return new Placed(
            $id,
            mb_substr($object->name, 0, 110) . " $number",
            $object->mesh,
            $position,
            $turn,
            [$object->scale[0] * $factor, $object->scale[1] * $factor, $object->scale[2] * $factor],
            $random->getInt(0, Stage::LARGEST_SEED),
            $object->value,
            $object->variant,
            wears: $object->wears,
            sections: $object->sections,
            paint: $object->paint,
        );
    }

    /** @return StageObjectJson */
    public static function document(Placed $one): array
    {
        return ['id' => $one->id, 'name' => $one->name, 'mesh' => $one->mesh, 'position' => self::rounded($one->position), 'turn' => self::rounded($one->turn), 'scale' => self::rounded($one->scale), 'seed' => $one->seed, 'value' => $one->value]
            + ($one->variant === '' ? [] : ['variant' => $one->variant])
            + ($one->wears === null ? [] : ['wears' => $one->wears])
            + ($one->paint === '' ? [] : ['paint' => $one->paint])
            + ($one->sections === [] ? [] : ['sections' => array_map(
                static fn (string $section, Wear $wear): array => ['section' => $section] + ($wear->material === null ? [] : ['wears' => $wear->material]) + ($wear->variant === '' ? [] : ['variant' => $wear->variant]),
                array_map(strval(...), array_keys($one->sections)),
                array_values($one->sections),
            )]);
    }

    /**
     * @param array{float, float, float} $numbers
     *
     * @return array{float, float, float}
     */
    private static function rounded(array $numbers): array
    {
        return [round($numbers[0], 4), round($numbers[1], 4), round($numbers[2], 4)];
    }
}
