<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Library\Dice;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Face;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/** Reads one cell of a sheet: chosen by hand, or at random by object or piece. */
final readonly class Cell extends LaterStep
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
        return 'Reads one cell of a map that is a sheet of columns and rows, once in every repeat.';
    }

    public function controls(): array
    {
        $place = static fn (string $name, string $label): NumberControl => new NumberControl(new Face($name, $label, 'Counted from 0.', ['by' => ['hand']]), Unit::None, 0.0, [0.0, 15.0], [0.0, 255.0], 1.0, false, true);

        return [
            new ChoiceControl(new Face('by', 'Chosen by', 'By hand, or at random for every object or every piece of a bond before it.'), ['hand' => 'Hand', 'object' => 'Object', 'piece' => 'Piece'], 'hand'),
            $place('column', 'Column'),
            $place('row', 'Row'),
            ...Sheet::controls(),
            new SeedControl(new Face('seed', 'Seed', 'Another seed, another choice.')),
        ];
    }

    public function mainControl(Values $values): ?string
    {
        return $values->choice('by') === 'hand' ? 'column' : null;
    }

    public function phrase(Values $values): string
    {
        return $values->choice('by') === 'hand' ? 'cell {column}, {row} of {columns} x {rows}' : 'a cell of {columns} x {rows} by ' . $values->choice('by');
    }

    protected function tap(StepContext $context, Tap $tap): array
    {
        return [Sheet::cell($context, $tap, $this->index($context, $tap))];
    }

    private function index(StepContext $context, Tap $tap): Node
    {
        $g = $context->graph;
        [$columns, $rows] = [$context->number('columns'), $context->number('rows')];
        if ($context->choice('by') === 'hand') {
            $column = $g->min($context->number('column'), $g->sub($columns, 1.0));

            return $g->add($column, $g->mul($g->min($context->number('row'), $g->sub($rows, 1.0)), $columns));
        }
        $cell = $g->vec($g->toUint($context->surface->input('objectSeed')), $g->uint(0));
        if ($context->choice('by') === 'piece' && $tap->cell !== null) {
            $cell = $g->add($cell, $tap->cell);
        }
        $dice = $g->x(Dice::three($g, $cell, $context->seed('seed')));

        return $g->min($g->floor($g->mul($dice, $g->mul($columns, $rows))), $g->sub($g->mul($columns, $rows), 1.0));
    }
}
