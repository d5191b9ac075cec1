<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\RowsControl;

/**
 * Reads the values of a list of controls. One that cannot be used is told and takes its default.
 *
 * @phpstan-import-type Value from Control
 */
final readonly class ValueReader
{
    /** @param array<string, Parameter> $parameters by id; those that a number may be tied to */
    public function __construct(private Checks $checks, private array $parameters = [])
    {
    }

    /**
     * @param list<Control> $controls
     * @param bool          $optional whether what is left out is as if its default were there
     */
    public function read(array $controls, mixed $data, string $path, bool $optional = true): Values
    {
        $names = array_map(static fn (Control $c): string => $c->name(), $controls);
        $given = $this->checks->object($data, $path, $names);
        $values = [];
        foreach ($controls as $control) {
            $name = $control->name();
            $values[$name] = \array_key_exists($name, $given) ? $this->value($control, $given[$name], "$path/$name") : $control->default();
            $this->checks->reads($control, "$path/$name");
            if ($optional) {
                $this->checks->optional($control, "$path/$name");
            }
        }

        return new Values($values);
    }

    /** @return Value|NumberBinding|ParameterBinding|list<array<string, float|string|NumberBinding>> */
    public function value(Control $control, mixed $given, string $path): float|int|string|bool|array|NumberBinding|ParameterBinding
    {
        $kind = \is_array($given) && isset($given['parameter']) ? ParameterKind::of($control) : null;
        if ($kind !== null) {
            return ($control instanceof NumberControl ? $this->tie($control, $given, $path) : $this->follow($kind, $given, $path)) ?? $control->default();
        }
        if ($control instanceof RowsControl && \is_array($given)) {
            return $this->rows($control, $given, $path);
        }

        return $this->checks->value($control, $given, $path);
    }

    /**
     * Rows of which some numbers follow parameters.
     *
     * @param array<array-key, mixed> $given
     *
     * @return Value|list<array<string, float|string|NumberBinding>>
     */
    private function rows(RowsControl $control, array $given, string $path): float|int|string|bool|array
    {
        $ties = [];
        foreach ($given as $i => $row) {
            if (!\is_array($row)) {
                continue;
            }
            foreach ($control->columns() as $column) {
                $cell = $row[$column->name()] ?? null;
                if (\is_array($cell) && isset($cell['parameter'])) {
                    $tie = $this->tie($column, $cell, "$path/$i/" . $column->name());
                    $ties[$i][$column->name()] = $tie ?? $column->default();
                    $row[$column->name()] = $tie->value ?? $column->default();
                }
            }
            $given[$i] = $row;
        }
        $rows = $this->checks->value($control, $given, $path);
        $tied = [];
        foreach (\is_array($rows) ? $rows : [] as $i => $row) {
            $tied[] = array_replace(\is_array($row) ? $row : [], $ties[$i] ?? []);
        }

        return $ties === [] ? $rows : $tied;
    }

    /** @param array<array-key, mixed> $given */
    private function tie(NumberControl $control, array $given, string $path): ?NumberBinding
    {
        $given = $this->checks->object($given, $path, ['parameter', 'factor', 'offset']);
        $parameter = $this->parameter(ParameterKind::Number, $given['parameter'] ?? null, $path);
        if ($parameter === null) {
            return null;
        }
        $numbers = array_map(
            fn (NumberControl $part): float => $this->checks->number($part, $given[$part->name()] ?? $part->default(), $path . '/' . $part->name()),
            NumberBinding::controls(),
        );

        return new NumberBinding($parameter, $numbers['factor'], $numbers['offset'], $control);
    }

    private function follow(ParameterKind $kind, mixed $given, string $path): ?ParameterBinding
    {
        $parameter = $this->parameter($kind, $this->checks->object($given, $path, ['parameter'])['parameter'] ?? null, $path);

        return $parameter === null ? null : new ParameterBinding($parameter);
    }

    private function parameter(ParameterKind $kind, mixed $id, string $path): ?Parameter
    {
        $parameter = \is_string($id) ? $this->parameters[$id] ?? null : null;
        if ($parameter?->kind === $kind) {
            return $parameter;
        }
        $able = array_keys(array_filter($this->parameters, static fn (Parameter $p): bool => $p->kind === $kind));
        $this->checks->problem("$path/parameter", \sprintf('there is no parameter %s of the kind %s; there are %s', Checks::show($id), $kind->value, implode(', ', $able) ?: 'none'));

        return null;
    }
}
