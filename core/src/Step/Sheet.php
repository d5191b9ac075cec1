<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\ReferenceControl;
use Rilta\Core\Material\Control\Unit;

/** A map cut into columns and rows, read one cell at a time, so that no neighbour bleeds in at any mip level. */
final class Sheet
{
    /** The largest share of a cell that a pixel may cover: above, the mip would hold more than the cell. */
    private const LARGEST_PIXEL = 0.25;

    /**
     * @param array<string, string> $cuts    ways to cut besides columns and rows and as the set is cut, by value
     * @param string                $default of all ways
     *
     * @return list<Control>
     */
    public static function controls(array $cuts = [], string $default = 'grid'): array
    {
        $count = static fn (string $name, string $label): NumberControl => new NumberControl(new ControlMeta($name, $label, 'Of the sheet.', ['cut' => ['grid']]), Unit::None, 4.0, [1.0, 16.0], [1.0, 256.0], 1.0, false, true);

        return [
            new ChoiceControl(new ControlMeta('cut', 'Cut', 'Into a grid of columns and rows, into other parts, or as a map set is cut in the library: a change there is a change here.'), ['grid' => 'Grid'] + $cuts + ['sheet' => 'Of a set'], $default),
            ReferenceControl::sheet(new ControlMeta('sheet', 'Sheet', 'A map set that the library knows the parts of.', ['cut' => ['sheet']])),
            $count('columns', 'Columns'),
            $count('rows', 'Rows'),
            new NumberControl(new ControlMeta('gutter', 'Gutter', 'What is left out at the borders of a part, so that neighbours do not show.'), Unit::Percent, 1.0, [0.0, 20.0], [0.0, 45.0], 0.5),
        ];
    }

    /** How many parts there are: float, whole; null where no sheet is named. */
    public static function count(StepContext $context): ?Node
    {
        $g = $context->graph;

        return match ($context->choice('cut')) {
            'grid' => $g->mul($context->number('columns'), $context->number('rows')),
            'rectangles' => $g->float(\count($context->rows('rectangles'))),
            default => $context->cut('sheet') === null ? null : $g->float($context->cut('sheet')->count()),
        };
    }

    /**
     * The tap inside a part: its coordinate runs over the part once in each repeat.
     *
     * @param Node $index float, whole, counted along the rows from the upper left, or down the list of rectangles
     */
    public static function part(StepContext $context, Tap $tap, Node $index): Tap
    {
        $g = $context->graph;
        $cut = $context->choice('cut') === 'sheet' ? $context->cut('sheet') : null;
        if ($context->choice('cut') === 'rectangles') {
            return self::rectangle($context, $tap, $index, $context->rows('rectangles'));
        }
        if ($cut !== null && $cut->rectangles !== []) {
            return self::rectangle($context, $tap, $index, array_map(static fn (array $r): array => array_map($g->float(...), ['x' => $r['x'], 'y' => $r['y'], 'width' => $r['width'], 'height' => $r['height']]), $cut->rectangles));
        }
        $counts = $cut === null ? $g->vec($context->number('columns'), $context->number('rows')) : $g->vec($cut->columns, $cut->rows);
        $row = $g->floor($g->div($g->add($index, 0.5), $g->x($counts)));
        $column = $g->sub($index, $g->mul($row, $g->x($counts)));

        return self::region($context, $tap, $g->div($g->vec($column, $row), $counts), $g->div(1.0, $counts));
    }

    /** @param list<array<string, Node>> $rectangles floats, percent */
    private static function rectangle(StepContext $context, Tap $tap, Node $index, array $rectangles): Tap
    {
        $g = $context->graph;
        $corner = $size = null;
        foreach ($rectangles as $i => $r) {
            $here = [$g->mul($g->vec($r['x'], $r['y']), 0.01), $g->mul($g->vec($r['width'], $r['height']), 0.01)];
            $taken = $g->less($i - 0.5, $index);
            $corner = $corner === null ? $here[0] : $g->select($taken, $here[0], $corner);
            $size = $size === null ? $here[1] : $g->select($taken, $here[1], $size);
        }

        return self::region($context, $tap, $corner ?? $g->vec(0, 0), $size ?? $g->vec(1, 1));
    }

    /**
     * The tap inside a rectangle of the map.
     *
     * @param Node $corner vec2, its upper left corner, 0…1
     * @param Node $size   vec2, 0…1
     */
    private static function region(StepContext $context, Tap $tap, Node $corner, Node $size): Tap
    {
        $g = $context->graph;
        $pixel = $g->max($g->max($g->abs($g->x($tap->at->dx)), $g->abs($g->y($tap->at->dx))), $g->max($g->abs($g->x($tap->at->dy)), $g->abs($g->y($tap->at->dy))));
        $slower = $g->min($g->div(self::LARGEST_PIXEL, $g->max($pixel, 1e-9)), 1.0);
        // A texel of the level that is read is at most two pixels wide; half of it may reach over the border.
        $gutter = $g->max($g->mul($context->number('gutter'), 0.01), $g->min($pixel, self::LARGEST_PIXEL));
        $gutter = $g->vec($gutter, $gutter);
        if ($context->coarsest !== null) {
            // Where texels are larger than pixels, half of one must not reach over the border either; of a part that is smaller than one, the middle is read.
            $gutter = $g->max($gutter, $g->min($g->div($g->vec(0.5 / $context->coarsest->width, 0.5 / $context->coarsest->height), $size), 0.5));
        }
        $local = $g->fract($tap->at->uv);
        $inside = $g->clamp($local, $gutter, $g->sub(1.0, $gutter));

        return $tap->with($tap->at->with(
            uv: $g->add($corner, $g->mul($inside, $size)),
            dx: $g->mul($g->mul($tap->at->dx, $size), $slower),
            dy: $g->mul($g->mul($tap->at->dy, $size), $slower),
            metres: $g->div($tap->at->metres, $size),
        ));
    }
}
