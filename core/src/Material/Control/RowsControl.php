<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

use Rilta\Core\Json\JsonObject;
use Rilta\Core\Material\Values;

/**
 * A list of rows of numbers: the points of a curve, keys over time, places, rectangles. The numbers are uniforms;
 * another count of rows is another graph.
 *
 * @phpstan-import-type Row from Control
 * @phpstan-import-type NumberControlJson from NumberControl
 * @phpstan-import-type RowJson from Values
 * @phpstan-import-type ShownWhenJson from ControlMeta
 *
 * @phpstan-type RowsControlJson array{
 *     type: 'rows',
 *     name: string,
 *     label: string,
 *     help: string,
 *     handle?: value-of<Handle>,
 *     shownWhen?: ShownWhenJson,
 *     columns: list<NumberControlJson>,
 *     default: list<RowJson>,
 *     least: int,
 *     most: int,
 *     look: 'table'|'curve'|'keys'|'gradient',
 *     named: bool,
 *     picks: ?string,
 *     structural: bool,
 *     one: string,
 *     advance: JsonObject<float>,
 *     longestName: int,
 *     eased: JsonObject<string>,
 * }
 */
final readonly class RowsControl implements Control
{
    private const LONGEST_NAME = 60;

    /**
     * @param non-empty-list<NumberControl>     $columns
     * @param list<array<string, float|string>> $default
     * @param array{int, int}                   $count   at least and at most
     * @param 'table'|'curve'|'keys'|'gradient' $look    how it is edited; of a curve the columns are x and y
     * @param ?string                           $rising  a column whose numbers have to grow from row to row
     * @param bool                              $named   whether each row has a "name" as well
     * @param ?string                           $picks   a number control of the step that says which row is taken
     * @param string                            $one     what a row is called
     * @param array<string, float>              $advance how much further a new row is than the last, by column
     * @param array<string, string>             $eased   choices of the step under which a curve comes to rest at every point; none: it is straight
     */
    public function __construct(
        private ControlMeta $face,
        private array $columns,
        private array $default,
        private array $count,
        private string $look = 'table',
        private ?string $rising = null,
        private bool $named = false,
        private ?string $picks = null,
        private string $one = 'row',
        private array $advance = [],
        private array $eased = [],
    ) {
    }

    public function name(): string
    {
        return $this->face->name;
    }

    /** @return list<NumberControl> */
    public function columns(): array
    {
        return $this->columns;
    }

    /** A column whose numbers have to grow from row to row, if there is one. */
    public function rising(): ?string
    {
        return $this->rising;
    }

    /** @return list<Row> */
    public function default(): array
    {
        return $this->default;
    }

    public function objection(mixed $value): ?string
    {
        if (!\is_array($value) || !array_is_list($value) || \count($value) < $this->count[0] || \count($value) > $this->count[1]) {
            return \sprintf('expected a list of %d to %d rows', ...$this->count);
        }
        $last = -\INF;
        foreach ($value as $i => $row) {
            $objection = $this->rowObjection($row);
            if ($objection !== null) {
                return "row $i: $objection";
            }
            if ($this->rising !== null && \is_array($row)) {
                if ($row[$this->rising] <= $last) {
                    return "row $i: expected $this->rising to be larger than in the row before";
                }
                $last = $row[$this->rising];
            }
        }

        return null;
    }

    /** @return list<Row> */
    public function normalise(mixed $value): array
    {
        $rows = [];
        foreach (\is_array($value) ? $value : [] as $row) {
            $one = $this->named ? ['name' => \is_array($row) && \is_string($row['name'] ?? null) ? $row['name'] : ''] : [];
            foreach ($this->columns as $column) {
                $one[$column->name()] = $column->normalise(\is_array($row) ? $row[$column->name()] ?? null : null);
            }
            $rows[] = $one;
        }

        return $rows;
    }

    public function numbers(mixed $value): array
    {
        $numbers = [];
        foreach (\is_array($value) ? array_keys($value) : [] as $row) {
            foreach ($this->columns as $column) {
                $numbers["/$row/{$column->name()}"] = $column->numbers(null)[''];
            }
        }

        return $numbers;
    }

    /** @return RowsControlJson */
    public function describe(): array
    {
        return ['type' => 'rows'] + $this->face->describe() + [
            'columns' => array_map(static fn (NumberControl $c): array => $c->describe(), $this->columns),
            'default' => $this->default,
            'least' => $this->count[0],
            'most' => $this->count[1],
            'look' => $this->look,
            'named' => $this->named,
            'picks' => $this->picks,
            'one' => $this->one,
            'advance' => new JsonObject($this->advance),
            'eased' => new JsonObject($this->eased),
            'longestName' => self::LONGEST_NAME,
            'structural' => false,
        ];
    }

    public function schema(): array
    {
        $properties = $this->named ? ['name' => ['type' => 'string', 'maxLength' => self::LONGEST_NAME]] : [];
        foreach ($this->columns as $column) {
            $properties[$column->name()] = ['anyOf' => [$column->schema(), ['$ref' => '#/$defs/tie']]];
        }

        return [
            'type' => 'array',
            'items' => ['type' => 'object', 'properties' => $properties, 'required' => array_keys($properties), 'additionalProperties' => false],
            'minItems' => $this->count[0],
            'maxItems' => $this->count[1],
        ];
    }

    private function rowObjection(mixed $row): ?string
    {
        if (!\is_array($row)) {
            return 'expected an object';
        }
        $known = array_map(static fn (NumberControl $c): string => $c->name(), $this->columns);
        if ($this->named) {
            $known[] = 'name';
            if (!\is_string($row['name'] ?? null) || mb_strlen($row['name']) > self::LONGEST_NAME) {
                return \sprintf('name: expected at most %d characters', self::LONGEST_NAME);
            }
        }
        foreach (array_keys($row) as $key) {
            if (!\in_array($key, $known, true)) {
                return "$key: is not known here; expected " . implode(', ', $known);
            }
        }
        foreach ($this->columns as $column) {
            $objection = $column->objection($row[$column->name()] ?? null);
            if ($objection !== null) {
                return $column->name() . ": $objection";
            }
        }

        return null;
    }
}
