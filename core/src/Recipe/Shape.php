<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Library\Levels;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\ReferenceControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\Unit;

/** What every ingredient has, whatever it is made of: how it is bent, what becomes 0 and 1, what lies outside, its levels. */
final class Shape
{
    private const OUTSIDE = ['hold' => 'Held at 0 and 1', 'fold' => 'Folded back', 'absolute' => 'Made positive', 'remap' => 'Fitted in'];

    /**
     * @param array{float, float} $usual where black and white stand at first
     *
     * @return list<Control>
     */
    public static function controls(array $usual): array
    {
        return [...self::bend(), ...self::range($usual), ...self::levels()];
    }

    /** @return list<Control> */
    public static function bend(): array
    {
        $noise = ['bend' => ['noise']];
        $bent = ['bend' => ['noise', 'ingredient']];

        return [
            new ChoiceControl(new ControlMeta('bend', 'Bend', 'Whether the picture is warped, and by what.'), ['none' => 'None', 'noise' => 'Noise', 'ingredient' => 'Ingredient'], 'none'),
            ReferenceControl::ingredient(new ControlMeta('bendBy', 'Bent by', 'An ingredient before this one; its middle grey leaves things where they are.', ['bend' => ['ingredient']]), 'nothing'),
            self::number(new ControlMeta('bendAmount', 'Amount', 'How far anything is moved at most, in tiles.', $bent), 0.05, [0.0, 0.3], [0.0, 2.0], 0.005),
            new NumberControl(new ControlMeta('bendCells', 'Bends', 'Bends from one side of the tile to the other.', $noise), Unit::None, 4.0, [1.0, 32.0], [1.0, Sources::MOST_CELLS], 1.0, true, true),
            new SeedControl(new ControlMeta('bendSeed', 'Seed', 'Another seed, other bends.', $noise), 7),
        ];
    }

    /**
     * @param array{float, float} $usual
     *
     * @return list<Control>
     */
    public static function range(array $usual): array
    {
        $limits = ['outside' => ['hold', 'fold', 'absolute']];

        return [
            self::number(new ControlMeta('black', 'Black at', 'The value that becomes 0.', $limits), $usual[0], [-1.0, 1.0], [-4.0, 4.0], 0.01),
            self::number(new ControlMeta('white', 'White at', 'The value that becomes 1.', $limits), $usual[1], [-1.0, 1.0], [-4.0, 4.0], 0.01),
            new ChoiceControl(new ControlMeta('outside', 'Outside', 'What happens to values below black and above white. "Fitted in" takes what the noise is nearly everywhere as its range; not one place in a hundred is held at an end.'), self::OUTSIDE, 'hold'),
        ];
    }

    /** @return list<Control> */
    public static function levels(): array
    {
        return [
            self::number(new ControlMeta('gamma', 'Middle', 'Above 1 the middle is lighter, below it darker.'), 1.0, [0.2, 5.0], [0.05, 20.0], 0.05, true),
            self::number(new ControlMeta('low', 'Darkest', 'What 0 becomes in the end. Above the lightest the picture is turned over.'), 0.0, [0.0, 1.0], [0.0, 1.0], 0.01),
            self::number(new ControlMeta('high', 'Lightest', 'What 1 becomes in the end.'), 1.0, [0.0, 1.0], [0.0, 1.0], 0.01),
        ];
    }

    /** Where a point of the tile is read: vec2. */
    public static function bent(IngredientContext $pot, Node $uv): Node
    {
        $g = $pot->graph;
        $by = match ($pot->choice('bend')) {
            'noise' => self::waver($pot, $uv),
            // Two readings of one picture that have nothing to do with one another.
            'ingredient' => $pot->choice('bendBy') === '' ? null : $g->sub($g->mul($g->vec(
                $pot->ingredient($pot->choice('bendBy'), $uv),
                $pot->ingredient($pot->choice('bendBy'), $g->add($uv, 0.5)),
            ), 2.0), 1.0),
            default => null,
        };

        return $by === null ? $uv : $g->add($uv, $g->mul($by, $pot->number('bendAmount')));
    }

    /**
     * Where between black (0) and white (1) a value lies; it may be outside.
     *
     * @param array{Node|float, Node|float} $range of the source
     */
    public static function placed(IngredientContext $pot, Node $raw, array $range): Node
    {
        $g = $pot->graph;
        if ($pot->choice('outside') === 'remap') {
            return $g->div($g->sub($raw, $range[0]), $g->sub($range[1], $range[0]));
        }
        $span = $g->sub($pot->number('white'), $pot->number('black'));

        // White at black is a hard edge.
        return $g->div($g->sub($raw, $pot->number('black')), $g->select($g->less($g->abs($span), 1e-6), 1e-6, $span));
    }

    /** The finished value, 0…1. */
    public static function finished(IngredientContext $pot, Node $placed): Node
    {
        $g = $pot->graph;
        $inside = match ($pot->choice('outside')) {
            'fold' => $g->sub(1.0, $g->abs($g->sub($g->sub($placed, $g->mul($g->floor($g->mul($placed, 0.5)), 2.0)), 1.0))),
            'absolute' => $g->clamp($g->abs($placed)),
            default => $g->clamp($placed),
        };
        $bright = Levels::middle($g, $inside, $pot->number('gamma'));

        return $g->mix($pot->number('low'), $pot->number('high'), $bright);
    }

    /**
     * @param array{float, float} $soft
     * @param array{float, float} $hard
     */
    private static function number(ControlMeta $face, float $default, array $soft, array $hard, float $step, bool $ratio = false): NumberControl
    {
        return new NumberControl($face, Unit::None, $default, $soft, $hard, $step, $ratio);
    }

    private static function waver(IngredientContext $pot, Node $uv): Node
    {
        $g = $pot->graph;
        $cells = $g->vec($pot->number('bendCells'), $pot->number('bendCells'));
        $noise = static fn (int $n): Node => Noise::gradient($g, $g->mul($uv, $cells), $cells, $g->add($pot->seed('bendSeed'), $g->uint($n)));

        return $g->vec($noise(0), $noise(7));
    }
}
