<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Material\Checks;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Parameter;
use Rilta\Core\Material\Problem;
use Rilta\Core\Material\Variant;
use Rilta\Core\Material\VariantReader;

/**
 * Variants as a table of comma-separated values (RFC 4180): a row for each, a column for each parameter, headed by its id. What is
 * inherited is empty. The first row, without an id, has the values of the material itself.
 */
final class VariantTable
{
    private const COLUMNS = ['variant', 'name', 'base'];

    public static function csv(Material $material): string
    {
        $ids = array_values(array_column($material->parameters, 'id'));
        $rows = [[...self::COLUMNS, ...$ids], ['', $material->name, '', ...array_map(self::number(...), array_values($material->variants->values('')))]];
        foreach ($material->variants->all as $variant) {
            $rows[] = [$variant->id, $variant->name, $variant->base, ...array_map(static fn (string $id): string => isset($variant->values[$id]) ? self::number($variant->values[$id]) : '', $ids)];
        }
        $file = self::memory('');
        foreach ($rows as $row) {
            fputcsv($file, $row, ',', '"', '', "\r\n");
        }
        rewind($file);

        return (string) stream_get_contents($file);
    }

    /**
     * Variants of a material from a table. Columns stand in any order, parameters that have none are inherited; rows of variants
     * that are there take their place, others are new, those without a row stay. Tabs may stand for commas.
     *
     * @return list<array{id: string, name: string, base: string, values: array<string, float>}> all variants, as in documents
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
        $all = $rows = [];
        foreach ($material->variants->all as $variant) {
            $all[$variant->id] = self::part($variant);
        }
        for ($row = 2; $problems === [] && ($cells = fgetcsv($file, null, $separator, '"', '')) !== false; ++$row) {
            if (implode('', $cells) === '') {
                continue;
            }
            $cells = array_combine($head, \array_slice(array_pad(array_map(static fn (?string $cell): string => trim((string) $cell), $cells), \count($head), ''), 0, \count($head)));
            if ($cells['variant'] === '') {
                // The material itself is not changed by a table of its variants.
                continue;
            }
            $found = self::row($cells, $row);
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
     * @param array<string, string> $cells by column
     *
     * @return array{variant: array{id: string, name: string, base: string, values: array<string, float>}, problems: list<Problem>}
     */
    private static function row(array $cells, int $row): array
    {
        $checks = new Checks();
        $id = $checks->id($cells['variant'], "/$row/variant");
        $values = [];
        foreach (array_diff_key($cells, array_flip(self::COLUMNS)) as $parameter => $cell) {
            if ($cell === '') {
                continue;
            }
            if (!is_numeric($cell)) {
                $checks->problem("/$row/$parameter", 'expected a number, or nothing for what is inherited, found ' . Checks::show($cell));
                continue;
            }
            $values[(string) $parameter] = $checks->number(Parameter::controls()['value'], (float) $cell, "/$row/$parameter");
        }
        $name = ($cells['name'] ?? '') === '' ? $cells['variant'] : $checks->name($cells['name'], "/$row/name");

        return ['variant' => ['id' => $id, 'name' => $name, 'base' => $cells['base'] ?? '', 'values' => $values], 'problems' => $checks->problems()];
    }

    /** @return array{id: string, name: string, base: string, values: array<string, float>} */
    private static function part(Variant $variant): array
    {
        return ['id' => $variant->id, 'name' => $variant->name, 'base' => $variant->base, 'values' => $variant->values];
    }

    private static function number(float $value): string
    {
        return (string) json_encode($value);
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
