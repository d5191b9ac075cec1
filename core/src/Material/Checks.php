<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/**
 * Looks at parts of a document, notes what is wrong with them and where, and hands on what can be used.
 *
 * @phpstan-import-type Value from Control\Control
 */
final class Checks
{
    public const LONGEST_NAME = 120;

    /** @var list<Problem> */
    private array $problems = [];

    /** @var array<string, array{float, float, bool, ?float}> */
    private array $numbers = [];

    /** @var array<string, Control\Control> */
    private array $controls = [];

    /** @var array<string, string> */
    private array $rising = [];

    /** @return list<Problem> */
    public function problems(): array
    {
        return $this->problems;
    }

    /** @return array<string, array{float, float, bool, ?float}> least, most, whether it is whole, and what stands in for it, of all numbers that were read, by JSON Pointer */
    public function numbers(): array
    {
        return $this->numbers;
    }

    /** Notes what a value is read by, whether it is there or left out. */
    public function reads(Control\Control $control, string $path): void
    {
        $this->controls[$path] = $control;
    }

    /** @return array<string, Control\Control> by JSON Pointer */
    public function controls(): array
    {
        return $this->controls;
    }

    /** Notes that a number may be left out: its default stands in for it, and code is the same. */
    public function optional(Control\Control $control, string $path): void
    {
        $default = $control->default();
        $range = $control->numbers($default)[''] ?? null;
        if ($range !== null && (\is_int($default) || \is_float($default))) {
            $this->numbers[$path] = [...$range, (float) $default];
        }
    }

    /** Notes that the numbers of a column have to grow from row to row. */
    public function rise(string $path, string $column): void
    {
        $this->rising[$path] = $column;
    }

    /** @return array<string, string> columns whose numbers have to grow from row to row, by JSON Pointer to the rows */
    public function rising(): array
    {
        return $this->rising;
    }

    public function problem(string $path, string $message): void
    {
        $this->problems[] = new Problem($path, $message);
    }

    /**
     * @param list<string>|null $known the members that may occur; null for any
     *
     * @return array<string, mixed>
     */
    public function object(mixed $data, string $path, ?array $known): array
    {
        if (!\is_array($data) || ($data !== [] && array_is_list($data))) {
            $this->problem($path, 'expected an object, found ' . self::show($data));

            return [];
        }
        $out = [];
        foreach ($data as $key => $value) {
            if ($known !== null && !\in_array((string) $key, $known, true)) {
                $this->problem("$path/" . self::escape((string) $key), 'is not known here; expected ' . implode(', ', $known));
            }
            $out[(string) $key] = $value;
        }

        return $out;
    }

    /** @return list<mixed> */
    public function items(mixed $data, string $path, int $least, int $most): array
    {
        if (!\is_array($data) || !array_is_list($data) || \count($data) < $least) {
            $this->problem($path, match (true) {
                $least > 1 => "expected a list with at least $least entries",
                $least > 0 => 'expected a list with at least one entry',
                default => 'expected a list',
            } . ', found ' . self::show($data));

            return [];
        }
        if (\count($data) > $most) {
            $this->problem($path, \sprintf('expected at most %d, found %d', $most, \count($data)));
        }

        return \array_slice($data, 0, $most);
    }

    /**
     * One of several words; the first of them if it is none.
     *
     * @param non-empty-list<string> $choices
     */
    public function oneOf(mixed $value, string $path, array $choices): string
    {
        if (\is_string($value) && \in_array($value, $choices, true)) {
            return $value;
        }
        $this->problem($path, \sprintf('expected one of %s, found %s', implode(', ', $choices), self::show($value)));

        return $choices[0];
    }

    public function name(mixed $value, string $path): string
    {
        if (\is_string($value) && trim($value) !== '' && mb_strlen($value) <= self::LONGEST_NAME) {
            return $value;
        }
        $this->problem($path, \sprintf('expected a name of 1 to %d characters, found %s', self::LONGEST_NAME, self::show($value)));

        return 'Unnamed';
    }

    /** Text that may be missing; empty if it is none. */
    public function text(mixed $value, string $path, int $longest): string
    {
        if (\is_string($value) && mb_strlen($value) <= $longest) {
            return $value;
        }
        $this->problem($path, \sprintf('expected text of at most %d characters, found %s', $longest, self::show($value)));

        return '';
    }

    /** Empty if it is none. */
    public function id(mixed $value, string $path): string
    {
        if (\is_string($value) && preg_match('/^[a-z0-9](?:[a-z0-9._-]{0,78}[a-z0-9])?$/D', $value) === 1) {
            return $value;
        }
        $this->problem($path, 'expected lower-case letters, digits, dots, hyphens or underscores, found ' . self::show($value));

        return '';
    }

    public function flag(mixed $value, string $path, bool $default): bool
    {
        if (!\is_bool($value)) {
            $this->problem($path, 'expected true or false, found ' . self::show($value));
        }

        return \is_bool($value) ? $value : $default;
    }

    public function number(Control\NumberControl $control, mixed $value, string $path): float
    {
        $number = $this->value($control, $value, $path);

        return \is_float($number) ? $number : $control->default();
    }

    /** @return Value of the control; its default if the value cannot be used */
    public function value(Control\Control $control, mixed $value, string $path): float|int|string|bool|array
    {
        $objection = $control->objection($value);
        if ($objection !== null) {
            $this->problem($path, $objection . ', found ' . self::show($value));

            return $control->default();
        }
        if ($control instanceof Control\RowsControl && $control->rising() !== null) {
            $this->rise($path, $control->rising());
        }
        foreach ($control->numbers($value) as $at => $range) {
            $this->numbers[$path . $at] = [...$range, null];
        }

        return $control->normalise($value);
    }

    /**
     * Those whose ids nobody before them has.
     *
     * @template T of object{id: string}
     *
     * @param array<int, T> $all by their places in the list
     *
     * @return array<int, T>
     */
    public function unique(array $all, string $path): array
    {
        $seen = [];
        foreach ($all as $i => $one) {
            if (isset($seen[$one->id])) {
                $this->problem("$path/$i/id", \sprintf('the id "%s" is taken by %s', $one->id, $seen[$one->id]));
                unset($all[$i]);
            }
            $seen[$one->id] ??= "$path/$i";
        }

        return $all;
    }

    public static function show(mixed $value): string
    {
        if ($value === null) {
            return 'nothing';
        }
        $json = json_encode($value, \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_PARTIAL_OUTPUT_ON_ERROR);

        return mb_strimwidth((string) $json, 0, 60, '…');
    }

    private static function escape(string $key): string
    {
        return str_replace(['~', '/'], ['~0', '~1'], $key);
    }
}
