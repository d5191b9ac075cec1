<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Material\Checks;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\ParameterKind;
use Rilta\Core\Material\Problem;
use Rilta\Core\Material\Variant;
use Rilta\Core\Material\VariantReader;

/**
 * Variants as a table of comma-separated values (RFC 4180): a row for each, a column for each parameter, headed by its id. What is
 * inherited is empty. The first row, without an id, has the values of the material itself. Numbers are written as in JSON, colours as
 * #rrggbb or as three numbers from 0 to 1, switches as true and false, maps and map sets by name, none of them as "none".
 *
 * @phpstan-import-type Value from Control
 */
final class VariantTable
{
    private const COLUMNS = ['variant', 'name', 'base'];
    private const NONE = 'none';

    public static function csv(Material $material): string
    {
        $ids = array_values(array_column($material->parameters, 'id'));
        $rows = [[...self::COLUMNS, ...$ids], ['', $material->name, '', ...array_map(self::cell(...), array_values($material->variants->values('')))]];
        foreach ($material->variants->all as $variant) {
            $rows[] = [$variant->id, $variant->name, $variant->base, ...array_map(static fn (string $id): string => isset($variant->values[$id]) ? self::cell($variant->values[$id]) : '', $ids)];
        }
        $file = self::memory('');
        foreach ($rows as $row) {
            fputcsv($file, array_map(self::guarded(...), $row), ',', '"', '', "\r\n");
        }
        rewind($file);

        return (string) stream_get_contents($file);
    }

    /** Spreadsheets compute what begins like a formula; an apostrophe before it says that it is text. Numbers are none. */
    private static function guarded(string $cell): string
    {
        return preg_match('/^[=+\-@\t\r]/', $cell) === 1 && !is_numeric($cell) && preg_match('/^-?[\d.eE+-]+( -?[\d.eE+-]+)*$/D', $cell) !== 1 ? "'$cell" : $cell;
    }

    private static function unguarded(string $cell): string
    {
        return preg_match("/^'[=+\\-@\t\r]/", $cell) === 1 ? substr($cell, 1) : $cell;
    }

    /**
     * Variants of a material from a table. Columns stand in any order, parameters that have none are inherited; rows of variants
     * that are there take their place, others are new, those without a row stay. Tabs may stand for commas.
     *
     * @return list<array{id: string, name: string, base: string, values: array<string, Value>}> all variants, as in documents
     *
     * @throws InvalidDocument naming the row and the column of every mistake
     */
    public static function read(Material $material, string $csv): array
    {
        if (!mb_check_encoding($csv, 'UTF-8')) {
            throw InvalidDocument::at('', 'the table is not UTF-8 text');
        }
        $csv = (string) preg_replace('/^\x{FEFF}/u', '', $csv);
        $file = self::memory($csv);
        $separator = str_contains(strtok($csv, "\r\n") ?: '', "\t") ? "\t" : ',';
        $head = array_map(trim(...), array_map(strval(...), fgetcsv($file, null, $separator, '"', '') ?: []));
        $problems = self::objections($head, $material);
        $kinds = array_column($material->parameters, 'kind', 'id');
        $all = $rows = [];
        foreach ($material->variants->all as $variant) {
            $all[$variant->id] = self::part($variant);
        }
        for ($row = 2; $problems === [] && ($cells = fgetcsv($file, null, $separator, '"', '')) !== false; ++$row) {
            if (implode('', $cells) === '') {
                continue;
            }
            $cells = array_combine($head, \array_slice(array_pad(array_map(static fn (?string $cell): string => self::unguarded(trim((string) $cell)), $cells), \count($head), ''), 0, \count($head)));
            if ($cells['variant'] === '') {
                // The material itself is not changed by a table of its variants.
                continue;
            }
            $found = self::row($cells, $row, $kinds);
            array_push($problems, ...$found['problems']);
            $all[$cells['variant']] = $found['variant'];
            $rows[$cells['variant']] = $row;
        }

        if ($problems === []) {
            // What they build on is known only when all are there.
            $checks = new Checks();
            (new VariantReader($checks, $material->parameters))->read(array_values($all), '');
            $ids = array_keys($all);
            foreach ($checks->problems() as $problem) {
                [, $at, $rest] = explode('/', $problem->path, 3) + ['', '', ''];
                $problems[] = new Problem('/' . ($rows[$ids[(int) $at] ?? ''] ?? $problem->path) . "/$rest", $problem->message);
            }
        }

        return $problems === [] ? array_values($all) : throw new InvalidDocument($problems);
    }

    /**
     * @param list<string> $head
     *
     * @return list<Problem>
     */
    private static function objections(array $head, Material $material): array
    {
        $ids = array_values(array_column($material->parameters, 'id'));
        $problems = [];
        if (!\in_array('variant', $head, true)) {
            $problems[] = new Problem('/1', 'expected a column headed "variant" in the first row, found ' . Checks::show($head));
        }
        foreach ($head as $i => $column) {
            if (!\in_array($column, [...self::COLUMNS, ...$ids], true)) {
                $problems[] = new Problem("/1/$column", \sprintf('column %d is no parameter of %s; those are %s', $i + 1, $material->name, implode(', ', $ids) ?: 'none'));
            } elseif (array_search($column, $head, true) !== $i) {
                $problems[] = new Problem("/1/$column", \sprintf('column %d repeats "%s"', $i + 1, $column));
            }
        }

        return $problems;
    }

    /**
     * @param array<string, string>        $cells by column
     * @param array<string, ParameterKind> $kinds by the ids of parameters
     *
     * @return array{variant: array{id: string, name: string, base: string, values: array<string, Value>}, problems: list<Problem>}
     */
    private static function row(array $cells, int $row, array $kinds): array
    {
        $checks = new Checks();
        $id = $checks->id($cells['variant'], "/$row/variant");
        $values = [];
        foreach (array_diff_key($cells, array_flip(self::COLUMNS)) as $parameter => $cell) {
            if ($cell === '') {
                continue;
            }
            $kind = $kinds[$parameter];
            $value = self::value($kind, $cell);
            if ($value === null) {
                $checks->problem("/$row/$parameter", 'expected ' . self::expected($kind) . ', or nothing for what is inherited, found ' . Checks::show($cell));
                continue;
            }
            $values[(string) $parameter] = $checks->value($kind->control(), $value, "/$row/$parameter");
        }
        $name = ($cells['name'] ?? '') === '' ? $cells['variant'] : $checks->name($cells['name'], "/$row/name");

        return ['variant' => ['id' => $id, 'name' => $name, 'base' => $cells['base'] ?? '', 'values' => $values], 'problems' => $checks->problems()];
    }

    /** @return array{id: string, name: string, base: string, values: array<string, Value>} */
    private static function part(Variant $variant): array
    {
        return ['id' => $variant->id, 'name' => $variant->name, 'base' => $variant->base, 'values' => $variant->values];
    }

    /** @param Value $value */
    private static function cell(float|int|string|bool|array $value): string
    {
        if (\is_string($value)) {
            return $value === '' ? self::NONE : $value;
        }
        if (!\is_array($value)) {
            return (string) json_encode($value);
        }

        // Always in the same form, and without a loss: eight bits are not enough for every colour.
        return implode(' ', array_map(static fn (mixed $part): string => (string) json_encode(\is_float($part) ? round($part, 6) + 0.0 : 0), $value));
    }

    /** @return float|string|bool|array{float, float, float}|null what a cell says, whether it can be used or not */
    private static function value(ParameterKind $kind, string $cell): float|string|bool|array|null
    {
        if ($kind === ParameterKind::Colour && preg_match('/^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/iD', $cell, $hex) === 1) {
            return [hexdec($hex[1]) / 255, hexdec($hex[2]) / 255, hexdec($hex[3]) / 255];
        }
        $parts = preg_split('/\s+/', $cell) ?: [];

        return match ($kind) {
            ParameterKind::Number => is_numeric($cell) ? (float) $cell : null,
            ParameterKind::Colour => \count($parts) === 3 && array_filter($parts, is_numeric(...)) === $parts ? [(float) $parts[0], (float) $parts[1], (float) $parts[2]] : null,
            ParameterKind::Switch => ['true' => true, 'false' => false][strtolower($cell)] ?? null,
            ParameterKind::Map, ParameterKind::Set => $cell === self::NONE ? '' : $cell,
        };
    }

    private static function expected(ParameterKind $kind): string
    {
        return match ($kind) {
            ParameterKind::Number => 'a number',
            ParameterKind::Colour => 'a colour as #rrggbb or three numbers from 0 to 1',
            ParameterKind::Switch => 'true or false',
            ParameterKind::Map => 'a map as set/role',
            ParameterKind::Set => 'the name of a map set',
        };
    }

    /** @return resource */
    private static function memory(string $text)
    {
        $file = fopen('php://memory', 'w+');
        if ($file === false) {
            throw new \RuntimeException('There is no memory for a table.');
        }
        fwrite($file, $text);
        rewind($file);

        return $file;
    }
}
