<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Random\Engine\Mt19937;
use Random\Randomizer;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;

/** Copies of an object in a grid, each a little elsewhere and with a seed of its own. */
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
        $number = static fn (string $name, string $label, string $help, Unit $unit, float $value, float $soft, float $hard, float $step, bool $whole = false, float $least = 0.0): NumberControl => new NumberControl(new ControlMeta($name, $label, $help), $unit, $value, [max(0.0, $least), $soft], [$least, $hard], $step, whole: $whole);

        return [
            $number('count', 'Copies', 'How many, with the object itself.', Unit::None, 3.0, 20.0, Stage::MOST_OBJECTS, 1.0, true, 1.0),
            $number('spacing', 'Metres', 'From one to the next.', Unit::Metres, 2.0, 10.0, self::FARTHEST, 0.1, false, -self::FARTHEST),
            $number('place', 'Aside by up to', 'How far each may lie beside its place.', Unit::Metres, 0.1, 1.0, self::MOST_ASIDE, 0.05),
            $number('turn', 'Turned by up to', 'How far each may be turned about the upright axis, to either side.', Unit::Degrees, 5.0, 90.0, self::MOST_TURN, 1.0),
            $number('size', 'Sized by up to', 'How much larger or smaller each may be.', Unit::Percent, 5.0, 50.0, self::MOST_SIZE, 1.0),
        ];
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
        $aside = static fn (float $most): float => $most * ($random->getInt(0, 1 << 30) / (1 << 29) - 1);
        $copies = [];
        $ids = array_fill_keys($taken, true);
        $number = 1;
        for ($y = 0; $y < $counts[1]; ++$y) {
            for ($z = 0; $z < $counts[2]; ++$z) {
                for ($x = 0; $x < $counts[0]; ++$x) {
                    if ($x + $y + $z === 0) {
                        continue;
                    }
                    do {
                        $id = substr($object->id, 0, 50) . '-' . ++$number;
                    } while (isset($ids[$id]));
                    $ids[$id] = true;
                    $factor = 1 + $aside($size) / 100;
                    $copies[] = new Placed(
                        $id,
                        mb_substr($object->name, 0, 110) . " $number",
                        $object->mesh,
                        [$object->position[0] + $x * $spacing[0] + $aside($place), $object->position[1] + $y * $spacing[1], $object->position[2] + $z * $spacing[2] + $aside($place)],
                        [$object->turn[0], $object->turn[1] + $aside($turn), $object->turn[2]],
                        [$object->scale[0] * $factor, $object->scale[1] * $factor, $object->scale[2] * $factor],
                        $random->getInt(0, Stage::LARGEST_SEED),
                        $object->value,
                        $object->variant,
                        wears: $object->wears,
                        sections: $object->sections,
                        paint: $object->paint,
                    );
                }
            }
        }

        return $copies;
    }

    /** @return array<string, mixed> as stages have it */
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
     * @return list<float>
     */
    private static function rounded(array $numbers): array
    {
        return array_map(static fn (float $number): float => round($number, 4), array_values($numbers));
    }
}
