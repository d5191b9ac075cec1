<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Library\Dice;
use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\RowsControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\Values;

/** Reads one cell or rectangle of a sheet: chosen by hand, by a number, by the place before it, or at random by object or piece. */
final readonly class Cell extends PerTapStep
{
    public function name(): string
    {
        return 'cell';
    }

    public function label(): string
    {
        return 'Cell';
    }

    public function help(): string
    {
        return 'Reads one cell of a map that is a sheet of columns and rows, or one rectangle of it, once in every repeat.';
    }

    public function controls(): array
    {
        $grid = ['cut' => ['grid']];
        $listed = ['cut' => ['rectangles', 'sheet']];
        $rectangles = ['cut' => ['rectangles']];
        $sheet = Sheet::controls(['rectangles' => 'Rectangles']);
        $place = static fn (string $name, string $label): NumberControl => new NumberControl(new ControlMeta($name, $label, 'Counted from 0.', ['by' => ['hand']] + $grid), Unit::None, 0.0, [0.0, 15.0], [0.0, 255.0], 1.0, false, true);
        $index = static fn (ControlMeta $face): NumberControl => new NumberControl($face, Unit::None, 0.0, [0.0, 63.0], [0.0, 65535.0], 1.0, false, true);
        $share = static fn (string $name, string $label, float $default, float $least): NumberControl => new NumberControl(new ControlMeta($name, $label, 'Of the map.'), Unit::Percent, $default, [$least, 100.0], [$least, 100.0], 1.0);

        return [
            $sheet[0],
            new ChoiceControl(new ControlMeta('by', 'Chosen by', 'By hand, by a number that a parameter may drive, by the place that a place step before it names, or at random for every object or every piece of a bond before it.'), [
                'hand' => 'Hand', 'number' => 'Number', 'place' => 'Place', 'object' => 'Object', 'piece' => 'Piece',
            ], 'hand'),
            $place('column', 'Column'),
            $place('row', 'Row'),
            $index(new ControlMeta('index', 'Number', 'Counted from 0 along the rows, or down the list.', ['by' => ['number']])),
            $index(new ControlMeta('rectangle', 'Part', 'Counted from 0 down the list, or along the rows.', ['by' => ['hand']] + $listed)),
            new RowsControl(
                new ControlMeta('rectangles', 'Rectangles', 'Parts of the map, by name; from its upper left corner.', $rectangles),
                [$share('x', 'Left', 0.0, 0.0), $share('y', 'Top', 0.0, 0.0), $share('width', 'Width', 100.0, 1.0), $share('height', 'Height', 100.0, 1.0)],
                [['name' => 'Whole map', 'x' => 0.0, 'y' => 0.0, 'width' => 100.0, 'height' => 100.0]],
                [1, Cut::MOST_RECTANGLES],
                named: true,
                picks: 'rectangle',
                one: 'rectangle',
            ),
            ...\array_slice($sheet, 1),
            new SeedControl(new ControlMeta('seed', 'Seed', 'Another seed, another choice.', ['by' => ['object', 'piece']])),
        ];
    }

    public function mainControl(Values $values): ?string
    {
        return match ($values->choice('by')) {
            'hand' => $values->choice('cut') === 'grid' ? 'column' : 'rectangle',
            'number' => 'index',
            default => null,
        };
    }

    public function phrase(Values $values): string
    {
        $by = $values->choice('by');
        if ($values->choice('cut') === 'sheet') {
            $sheet = $values->choice('sheet') ?: 'no sheet';

            return match ($by) {
                'hand' => "part {rectangle} of $sheet",
                'number' => "part {index} of $sheet",
                default => "a part of $sheet by $by",
            };
        }
        if ($values->choice('cut') === 'rectangles') {
            $names = array_map(strval(...), array_filter(array_column($values->rows('rectangles'), 'name'), is_string(...)));

            return match ($by) {
                'hand' => \sprintf('rectangle "%s"', $names[min((int) $values->number('rectangle'), \count($names) - 1)]),
                'number' => 'rectangle {index} of ' . \count($names),
                default => 'one of ' . \count($names) . " rectangles by $by",
            };
        }

        return match ($by) {
            'hand' => 'cell {column}, {row} of {columns} x {rows}',
            'number' => 'cell {index} of {columns} x {rows}',
            default => "a cell of {columns} x {rows} by $by",
        };
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        $count = Sheet::count($context);

        return [$count === null ? $tap : Sheet::part($context, $tap, $this->index($context, $tap, $count))];
    }

    /** @param Node $count float: of parts */
    private function index(StepContext $context, Tap $tap, Node $count): Node
    {
        $g = $context->graph;
        $last = $g->sub($count, 1.0);
        $by = $context->choice('by');
        if ($by === 'hand' && $context->choice('cut') === 'grid') {
            [$columns, $rows] = [$context->number('columns'), $context->number('rows')];
            $column = $g->min($context->number('column'), $g->sub($columns, 1.0));

            return $g->add($column, $g->mul($g->min($context->number('row'), $g->sub($rows, 1.0)), $columns));
        }
        if ($by === 'hand' || $by === 'number' || $by === 'place') {
            return $g->min(match ($by) {
                'hand' => $context->number('rectangle'),
                'number' => $context->number('index'),
                default => $tap->index ?? $g->float(0),
            }, $last);
        }
        $dice = $g->x(Dice::three($g, RandomTransform::each($context, $tap, $by), $context->seed('seed')));

        return $g->min($g->floor($g->mul($dice, $count)), $last);
    }
}
