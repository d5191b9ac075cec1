<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Node;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\Face;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;

/** A map cut into columns and rows, read one cell at a time, so that no neighbour bleeds in at any mip level. */
final class Sheet
{
    /** The largest share of a cell that a pixel may cover: above, the mip would hold more than the cell. */
    private const LARGEST_PIXEL = 0.25;

    /**
     * @param array<string, list<string|bool>> $counted when columns and rows have a meaning
     *
     * @return list<Control>
     */
    public static function controls(array $counted = []): array
    {
        $count = static fn (string $name, string $label): NumberControl => new NumberControl(new Face($name, $label, 'Of the sheet.', $counted), Unit::None, 4.0, [1.0, 16.0], [1.0, 256.0], 1.0, false, true);

        return [
            $count('columns', 'Columns'),
            $count('rows', 'Rows'),
            new NumberControl(new Face('gutter', 'Gutter', 'What is left out at the borders of a cell, so that neighbours do not show.'), Unit::Percent, 1.0, [0.0, 20.0], [0.0, 45.0], 0.5),
        ];
    }

    /**
     * The tap inside a cell: its coordinate runs over the cell once in each repeat.
     *
     * @param Node $index float, whole, counted along the rows from the upper left
     */
    public static function cell(StepContext $context, Tap $tap, Node $index): Tap
    {
        $g = $context->graph;
        $counts = $g->vec($context->number('columns'), $context->number('rows'));
        $row = $g->floor($g->div($g->add($index, 0.5), $g->x($counts)));
        $column = $g->sub($index, $g->mul($row, $g->x($counts)));

        return self::region($context, $tap, $g->div($g->vec($column, $row), $counts), $g->div(1.0, $counts));
    }

    /**
     * The tap inside a rectangle of the map.
     *
     * @param Node $corner vec2, its upper left corner, 0…1
     * @param Node $size   vec2, 0…1
     */
    public static function region(StepContext $context, Tap $tap, Node $corner, Node $size): Tap
    {
        $g = $context->graph;
        $pixel = $g->max($g->max($g->abs($g->x($tap->dx)), $g->abs($g->y($tap->dx))), $g->max($g->abs($g->x($tap->dy)), $g->abs($g->y($tap->dy))));
        $slower = $g->min($g->div(self::LARGEST_PIXEL, $g->max($pixel, 1e-9)), 1.0);
        // A texel of the level that is read is at most two pixels wide; half of it may reach over the border.
        $gutter = $g->max($g->mul($context->number('gutter'), 0.01), $g->min($pixel, self::LARGEST_PIXEL));
        $local = $g->fract($tap->uv);
        $inside = $g->clamp($local, $gutter, $g->sub(1.0, $gutter));

        return $tap->with(
            uv: $g->add($corner, $g->mul($inside, $size)),
            dx: $g->mul($g->mul($tap->dx, $size), $slower),
            dy: $g->mul($g->mul($tap->dy, $size), $slower),
            metres: $g->div($tap->metres, $size),
        );
    }
}
