<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Colour\Srgb;
use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;

/** Pictures of coordinates, so that people can see where a lane reads. */
final class Chart
{
    /** Linear colours of the corners of one repeat: upper left, upper right, lower left, lower right. */
    private const CORNERS = [[0.80, 0.78, 0.70], [0.72, 0.30, 0.07], [0.05, 0.28, 0.30], [0.13, 0.05, 0.18]];

    private const FACES = ['x' => [0.80, 0.22, 0.10], 'y' => [0.33, 0.62, 0.16], 'z' => [0.08, 0.24, 0.62]];

    /** Alternates in their order; those that stand side by side differ in lightness as well. */
    private const ALTERNATES = [[0.70, 0.62, 0.42], [0.06, 0.23, 0.33], [0.56, 0.17, 0.10], [0.22, 0.44, 0.20], [0.30, 0.14, 0.40], [0.75, 0.42, 0.12], [0.10, 0.40, 0.42], [0.45, 0.45, 0.45]];

    private static ?FieldFunction $repeats = null;

    /**
     * One repeat as a field of four corner colours, lined at its borders and thinly at its quarters. Where a
     * repeat gets smaller than a few pixels the lines fade.
     *
     * @param Node $uv vec2, repeats
     * @param Node $dx vec2, derivative
     * @param Node $dy vec2, derivative
     *
     * @return Node vec3, linear colour
     */
    public static function repeats(Graph $g, Node $uv, Node $dx, Node $dy): Node
    {
        self::$repeats ??= new FieldFunction(
            'coordinateChart',
            'A colour for a coordinate: four corner colours over one repeat, lines at borders and quarters.',
            ['uv' => Type::Vec2, 'dx' => Type::Vec2, 'dy' => Type::Vec2],
            static function (Graph $g, array $a): Node {
                [$uv, $dx, $dy] = $a;
                $in = $g->named('inside', $g->fract($uv));
                [$ul, $ur, $ll, $lr] = array_map(static fn (array $c): Node => $g->vec(...$c), self::CORNERS);
                $colour = $g->mix($g->mix($ul, $ur, $g->x($in)), $g->mix($ll, $lr, $g->x($in)), $g->y($in));
                $pixel = $g->max($g->add($g->abs($dx), $g->abs($dy)), 1e-7);
                $line = static function (int $count, float $width) use ($g, $uv, $pixel): Node {
                    $scaled = $g->mul($uv, $count);
                    $to = $g->abs($g->sub($g->fract($g->add($scaled, 0.5)), 0.5));
                    $size = $g->mul($pixel, $count);
                    $on = static fn (Node $distance, Node $unit): Node => $g->mul(
                        $g->sub(1.0, $g->clamp($g->sub($g->div($distance, $unit), $width))),
                        $g->clamp($g->sub(1.6, $g->mul($unit, 6))),
                    );

                    return $g->max($on($g->x($to), $g->x($size)), $on($g->y($to), $g->y($size)));
                };
                $colour = $g->mix($colour, $g->vec(0.9, 0.9, 0.9), $g->mul($line(4, 0.0), 0.22));

                return $g->mix($colour, $g->vec(0.012, 0.012, 0.012), $g->mul($line(1, 0.7), 0.85));
            },
            ['uv'],
        );

        return $g->call(self::$repeats, $uv, $dx, $dy);
    }

    /**
     * A colour for a cell: one of many, none of them near its neighbours'.
     *
     * @param Node $cell uvec2
     */
    public static function cell(Graph $g, Node $cell): Node
    {
        $dice = Dice::three($g, $cell, $g->uint(0x5EED));

        return $g->vec(
            $g->add(0.05, $g->mul($g->mul($g->x($dice), $g->x($dice)), 0.75)),
            $g->add(0.08, $g->mul($g->mul($g->y($dice), $g->y($dice)), 0.55)),
            $g->add(0.06, $g->mul($g->mul($g->z($dice), $g->z($dice)), 0.65)),
        );
    }

    /**
     * A colour for a face weight: warm for x, green for y, blue for z.
     */
    public static function face(Graph $g, string $name): Node
    {
        return $g->vec(...self::FACES[$name] ?? [0.5, 0.5, 0.5]);
    }

    /** The colour of an alternate: vec3, linear. */
    public static function alternate(Graph $g, int $index): Node
    {
        return $g->vec(...self::ALTERNATES[$index % \count(self::ALTERNATES)]);
    }

    /**
     * @param list<string> $names
     *
     * @return list<array{colours: list<string>, text: string}>
     */
    public static function alternateLegend(array $names): array
    {
        return array_map(static fn (int $i, string $name): array => ['colours' => [self::code(self::ALTERNATES[$i % \count(self::ALTERNATES)])], 'text' => $name], array_keys($names), $names);
    }

    /** @return list<array{colours: list<string>, text: string}> */
    public static function repeatLegend(): array
    {
        return [
            ['colours' => array_map(self::code(...), self::CORNERS), 'text' => 'One repeat, as it lies in the map'],
            ['colours' => [self::code([0.012, 0.012, 0.012])], 'text' => 'Border of a repeat'],
        ];
    }

    /** @return list<array{colours: list<string>, text: string}> */
    public static function cellLegend(): array
    {
        return [['colours' => ['#c98f3f', '#5fae8d', '#8a6fc0'], 'text' => 'A cell, piece or object each']];
    }

    /** @return list<array{colours: list<string>, text: string}> */
    public static function faceLegend(): array
    {
        return array_map(
            static fn (string $face, array $colour): array => ['colours' => [self::code($colour)], 'text' => 'Projected along ' . strtoupper($face)],
            array_keys(self::FACES),
            self::FACES,
        );
    }

    /** @param array{float, float, float} $linear */
    private static function code(array $linear): string
    {
        return '#' . implode('', array_map(static fn (float $c): string => \sprintf('%02x', (int) round(Srgb::fromLinear($c) * 255)), $linear));
    }
}
