<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/**
 * How the maps of a set are cut into the parts of a sheet: columns and rows, or rectangles with names.
 *
 * @phpstan-type SheetCutJson array{columns: int, rows: int, rectangles: list<array{
 *         name: string,
 *         x: float,
 *         y: float,
 *         width: float,
 *         height: float,
 *     }>}
 */
final readonly class Cut
{
    public const MOST_COLUMNS = 256;
    public const MOST_RECTANGLES = 32;

    /**
     * @param list<array{name: string, x: float, y: float, width: float, height: float}> $rectangles percent of the map, from its upper left corner; none for columns and rows
     */
    private function __construct(public int $columns, public int $rows, public array $rectangles)
    {
    }

    /**
     * @param array<array-key, mixed> $data "columns" and "rows", or "rectangles"
     *
     * @throws \InvalidArgumentException that says where and what was expected
     */
    public static function of(array $data): self
    {
        if (($data['rectangles'] ?? []) === []) {
            [$columns, $rows] = [$data['columns'] ?? null, $data['rows'] ?? null];
            if (!\is_int($columns) || !\is_int($rows) || min($columns, $rows) < 1 || max($columns, $rows) > self::MOST_COLUMNS) {
                throw new \InvalidArgumentException(\sprintf('expected "columns" and "rows" from 1 to %d, or "rectangles"', self::MOST_COLUMNS));
            }

            return new self($columns, $rows, []);
        }
        if (!\is_array($data['rectangles']) || !array_is_list($data['rectangles']) || \count($data['rectangles']) > self::MOST_RECTANGLES) {
            throw new \InvalidArgumentException(\sprintf('rectangles: expected a list of at most %d', self::MOST_RECTANGLES));
        }

        return new self(0, 0, array_map(self::rectangle(...), $data['rectangles'], array_keys($data['rectangles'])));
    }

    /** How many parts there are. */
    public function count(): int
    {
        return $this->rectangles === [] ? $this->columns * $this->rows : \count($this->rectangles);
    }

    /** @return SheetCutJson */
    public function describe(): array
    {
        return ['columns' => $this->columns, 'rows' => $this->rows, 'rectangles' => $this->rectangles];
    }

    /** In words: "4 x 4", "3 rectangles". */
    public function phrase(): string
    {
        return $this->rectangles === [] ? "$this->columns x $this->rows" : \count($this->rectangles) . ' rectangles';
    }

    /** @return array{name: string, x: float, y: float, width: float, height: float} */
    private static function rectangle(mixed $one, int $i): array
    {
        $name = \is_array($one) && \is_string($one['name'] ?? null) ? trim($one['name']) : '';
        if (!\is_array($one) || $name === '' || mb_strlen($name) > 60) {
            throw new \InvalidArgumentException("rectangles, $i: expected a name of 1 to 60 characters");
        }
        $numbers = [];
        foreach (['x', 'y', 'width', 'height'] as $key) {
            $value = $one[$key] ?? null;
            if ((!\is_int($value) && !\is_float($value)) || $value < 0 || $value > 100) {
                throw new \InvalidArgumentException("rectangles, $name, $key: expected 0 to 100 percent");
            }
            $numbers[] = (float) $value;
        }
        [$x, $y, $width, $height] = $numbers;
        if (min($width, $height) < 0.01 || $x + $width > 100.0001 || $y + $height > 100.0001) {
            throw new \InvalidArgumentException("rectangles, $name: expected a part of the map");
        }

        return ['name' => $name, 'x' => $x, 'y' => $y, 'width' => $width, 'height' => $height];
    }
}
