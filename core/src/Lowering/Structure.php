<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Json\JsonObject;
use Rilta\Core\Material\ParameterKind;
use Rilta\Core\Material\PartialRead;

/**
 * What of a document its code is made by: all but the numbers that fill uniforms, and the words that only people read. As long as two
 * documents have the same outline, they have the same code.
 *
 * @phpstan-type StructureJson array{
 *     numbers: JsonObject<array{float, float, bool, ?float}>, // least, most, whether it is whole, and what stands in for it where it is left out (null: leaving it out is other code), by JSON Pointer
 *     words: list<string>, // JSON Pointers; "*" stands for any place of a list
 *     rising: JsonObject<string>, // columns whose numbers have to grow from row to row, by JSON Pointer to the rows
 * }
 */
final readonly class Structure
{
    /** Of a material, by JSON Pointer; "*" stands for any place of a list. */
    private const WORDS = [
        '/name', '/variants', '/lanes/*/name', '/layers/*/name', '/groups/*/name', '/parameters/*/name', '/parameters/*/unit', '/parameters/*/min', '/parameters/*/max',
        '/parameters/*/step', '/parameters/*/group', '/parameters/*/help', '/parameters/*/live',
    ];

    /**
     * @param array<string, array{float, float, bool, ?float}> $numbers least, most, whether it is whole, and what stands in for it where it is left out, by JSON Pointer
     * @param list<string>                                     $words   JSON Pointers; "*" stands for any place of a list
     * @param array<string, string>                            $rising  columns whose numbers have to grow from row to row, by JSON Pointer to the rows
     */
    public function __construct(public array $numbers, public array $words, public array $rising = [])
    {
    }

    /** @param list<string> $fixed JSON Pointers of values that more of the code was made by */
    public static function of(PartialRead $read, Lowered $lowered, array $fixed = []): self
    {
        $filled = array_column($lowered->slots, 'path', 'path');
        $switches = [];
        foreach ($read->material->parameters as $parameter) {
            // A switch that code is made for both states of is a number, 0 or 1.
            if ($parameter->kind === ParameterKind::Switch && isset($filled["$parameter->path/value"])) {
                $switches["$parameter->path/value"] = [0.0, 1.0, true, null];
            }
        }

        return new self(array_diff_key($read->numbers + $switches, array_flip([...$lowered->fixed, ...$fixed])), self::WORDS, $read->rising);
    }

    /** @return StructureJson */
    public function json(): array
    {
        return ['numbers' => new JsonObject($this->numbers), 'words' => $this->words, 'rising' => new JsonObject($this->rising)];
    }

    /** The document without its numbers and words, in one line. */
    public function outline(mixed $document): string
    {
        return json_encode($this->at($document, ''), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION);
    }

    private function at(mixed $value, string $path): mixed
    {
        if (\is_array($value)) {
            $out = [];
            foreach ($value as $key => $one) {
                $left = $this->at($one, "$path/$key");
                // A number that may be left out is left out.
                if (!$this->isWord("$path/$key") && !($left === '#' && isset($this->numbers["$path/$key"][3]))) {
                    $out[$key] = $left;
                }
            }

            return $this->rises($value, $path) ? $out : $value;
        }
        $range = $this->numbers[$path] ?? null;
        if ($range === null || (!\is_int($value) && !\is_float($value) && !\is_bool($value))) {
            return $value;
        }
        $number = (float) $value;

        return $number >= $range[0] && $number <= $range[1] && (!$range[2] || floor($number) === $number) ? (\is_bool($value) ? '?' : '#') : $value;
    }

    /** @param array<mixed> $rows */
    private function rises(array $rows, string $path): bool
    {
        $column = $this->rising[$path] ?? null;
        $last = -\INF;
        foreach ($column === null ? [] : $rows as $row) {
            $number = \is_array($row) ? $row[$column] ?? null : null;
            if ((\is_int($number) || \is_float($number)) && !($number > $last)) {
                return false;
            }
            $last = \is_int($number) || \is_float($number) ? $number : $last;
        }

        return true;
    }

    private function isWord(string $path): bool
    {
        return \in_array(preg_replace('~/\d+~', '/*', $path), $this->words, true);
    }
}
