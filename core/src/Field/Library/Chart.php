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

    /** From far too little, over what is right, to far too much: linear colours. */
    private const SCALE = [[0.02, 0.05, 0.22], [0.06, 0.28, 0.40], [0.62, 0.66, 0.50], [0.78, 0.34, 0.06], [0.45, 0.03, 0.03]];

    /** What is painted in each of the four channels, over what is not painted. */
    private const PAINTED = [[0.75, 0.16, 0.05], [0.10, 0.52, 0.20], [0.08, 0.22, 0.72], [0.72, 0.56, 0.08]];
    private const UNPAINTED = [0.045, 0.045, 0.05];

    private static ?FieldFunction $repeats = null;
    private static ?FieldFunction $metres = null;

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

    /**
     * A colour on the scale from far too little to far too much.
     *
     * @param Node $at float, 0…1; ½ is right
     */
    public static function scale(Graph $g, Node $at): Node
    {
        $steps = \count(self::SCALE) - 1;
        $colour = $g->vec(...self::SCALE[0]);
        foreach (\array_slice(self::SCALE, 1) as $i => $next) {
            $colour = $g->mix($colour, $g->vec(...$next), $g->clamp($g->sub($g->mul($at, $steps), $i)));
        }

        return $colour;
    }

    /**
     * @param list<string> $texts what each of the five colours says; those that are empty are left out
     *
     * @return list<array{colours: list<string>, text: string}>
     */
    public static function scaleLegend(array $texts): array
    {
        $entries = array_map(static fn (array $colour, string $text): array => ['colours' => [self::code($colour)], 'text' => $text], self::SCALE, $texts);

        return array_values(array_filter($entries, static fn (array $entry): bool => $entry['text'] !== ''));
    }

    /**
     * What is painted, a colour for each channel.
     *
     * @param Node $painted vec4, 0…1
     */
    public static function painted(Graph $g, Node $painted): Node
    {
        $colour = $g->vec(...self::UNPAINTED);
        foreach (self::PAINTED as $i => $one) {
            $colour = $g->add($colour, $g->mul($g->vec(...$one), $g->pick($painted, 'xyzw'[$i])));
        }

        return $colour;
    }

    /** @return list<array{colours: list<string>, text: string}> */
    public static function paintedLegend(): array
    {
        return [
            ...array_map(static fn (int $i, array $colour): array => ['colours' => [self::code($colour)], 'text' => 'Channel ' . $i + 1], array_keys(self::PAINTED), self::PAINTED),
            ['colours' => [self::code(self::UNPAINTED)], 'text' => 'Not painted'],
        ];
    }

    /**
     * A colour for a section of a mesh, by its number.
     *
     * @param Node $section float, whole
     */
    public static function section(Graph $g, Node $section): Node
    {
        $at = $g->mul($g->fract($g->mul($g->add($section, 0.25), 1 / \count(self::ALTERNATES))), \count(self::ALTERNATES));
        $colour = $g->vec(...self::ALTERNATES[0]);
        foreach (\array_slice(self::ALTERNATES, 1) as $i => $one) {
            $colour = $g->select($g->less($i + 1.0, $at), $g->vec(...$one), $colour);
        }

        return $colour;
    }

    /** @return list<array{colours: list<string>, text: string}> */
    public static function sectionLegend(): array
    {
        return [['colours' => array_map(self::code(...), \array_slice(self::ALTERNATES, 0, 3)), 'text' => 'A section of the mesh each']];
    }

    /**
     * Lines where whole metres of the world lie, and thin ones at tenths; each fades where it gets smaller than a few pixels.
     *
     * @param Node $position vec3, m
     * @param Node $normal   vec3, unit
     * @param Node $dpdx     vec3, m
     * @param Node $dpdy     vec3, m
     *
     * @return Node vec3, linear colour
     */
    public static function metres(Graph $g, Node $position, Node $normal, Node $dpdx, Node $dpdy): Node
    {
        self::$metres ??= new FieldFunction(
            'metreGrid',
            'Lines where whole metres of the world lie, and thin ones at tenths.',
            ['at' => Type::Vec3, 'normal' => Type::Vec3, 'dx' => Type::Vec3, 'dy' => Type::Vec3],
            static function (Graph $g, array $a): Node {
                [$at, $normal, $dx, $dy] = $a;
                $pixel = $g->max($g->add($g->abs($dx), $g->abs($dy)), 1e-7);
                $colour = $g->vec(0.21, 0.21, 0.20);
                foreach ([[10, 0.0, [0.5, 0.5, 0.46], 0.4], [1, 0.7, [0.02, 0.16, 0.17], 0.9]] as [$count, $width, $line, $strength]) {
                    $to = $g->abs($g->sub($g->fract($g->add($g->mul($at, $count), 0.5)), 0.5));
                    $unit = $g->mul($pixel, $count);
                    $on = $g->mul($g->sub(1.0, $g->clamp($g->sub($g->div($to, $unit), $width))), $g->clamp($g->sub(1.6, $g->mul($unit, 6))));
                    // A plane that a surface lies in is no line on it.
                    $on = $g->mul($on, $g->clamp($g->mul($g->sub(0.98, $g->abs($normal)), 12.0)));
                    $colour = $g->mix($colour, $g->vec(...$line), $g->mul($g->max($g->max($g->x($on), $g->y($on)), $g->z($on)), $strength));
                }

                return $colour;
            },
            ['at'],
        );

        return $g->call(self::$metres, $position, $normal, $dpdx, $dpdy);
    }

    /** @return list<array{colours: list<string>, text: string}> */
    public static function metreLegend(): array
    {
        return [['colours' => [self::code([0.04, 0.16, 0.165])], 'text' => 'Every metre of the world'], ['colours' => [self::code([0.33, 0.33, 0.31])], 'text' => 'Every tenth of one']];
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
