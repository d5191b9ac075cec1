<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\NumberControl;

/**
 * Reads the lanes of a document. A step that cannot be used is left out, a value that cannot be used takes its default.
 *
 * @phpstan-import-type Value from Control
 */
final readonly class LaneReader
{
    /**
     * @param array<string, StepKind>  $kinds      by name
     * @param array<string, Parameter> $parameters by id
     */
    public function __construct(private Checks $checks, private array $kinds, private array $parameters)
    {
    }

    public function lane(mixed $data, string $path): ?Lane
    {
        $lane = $this->checks->object($data, $path, ['id', 'name', 'steps']);
        $id = $this->checks->id($lane['id'] ?? null, "$path/id");
        $name = $this->checks->name($lane['name'] ?? null, "$path/name");
        $steps = [];
        foreach ($this->checks->items($lane['steps'] ?? null, "$path/steps", 1, Reader::MOST_STEPS) as $i => $step) {
            $use = $this->step($step, "$path/steps/$i", $i === 0);
            if ($use !== null) {
                $steps[$i] = $use;
            }
        }

        // Without its origin a lane leads nowhere.
        return $id === '' || !isset($steps[0]) ? null : new Lane($id, $name, $steps);
    }

    private function step(mixed $data, string $path, bool $first): ?StepUse
    {
        $step = $this->checks->object($data, $path, ['step', 'on', 'values']);
        $kind = \is_string($step['step'] ?? null) ? $this->kinds[$step['step']] ?? null : null;
        if ($kind === null) {
            $this->checks->object($step['values'] ?? [], "$path/values", null);
            $this->checks->problem("$path/step", 'expected one of ' . implode(', ', array_keys($this->kinds)) . ', found ' . Checks::show($step['step'] ?? null));

            return null;
        }
        if ($kind->isOrigin() !== $first) {
            $this->checks->problem("$path/step", $first ? 'a lane begins with an origin' : 'an origin can only be the first step of a lane');

            return null;
        }
        $on = $this->checks->flag($step['on'] ?? true, "$path/on", true);
        if (!$on && $first) {
            $this->checks->problem("$path/on", 'the origin of a lane cannot be switched off');
            $on = true;
        }

        return new StepUse($kind, $on, $this->values($kind, $step['values'] ?? [], "$path/values"));
    }

    private function values(StepKind $kind, mixed $data, string $path): Values
    {
        $names = array_map(static fn (Control $c): string => $c->name(), $kind->controls());
        $given = $this->checks->object($data, $path, $names);
        $values = [];
        foreach ($kind->controls() as $control) {
            $name = $control->name();
            $values[$name] = \array_key_exists($name, $given) ? $this->value($control, $given[$name], "$path/$name") : $control->default();
        }

        return new Values($values);
    }

    /** @return Value|Tie */
    private function value(Control $control, mixed $given, string $path): float|int|string|bool|array|Tie
    {
        if ($control instanceof NumberControl && \is_array($given) && isset($given['parameter'])) {
            return $this->tie($control, $given, $path) ?? $control->default();
        }
        $objection = $control->objection($given);
        if ($objection !== null) {
            $this->checks->problem($path, $objection . ', found ' . Checks::show($given));

            return $control->default();
        }

        return $control->normalise($given);
    }

    /** @param array<array-key, mixed> $given */
    private function tie(NumberControl $control, array $given, string $path): ?Tie
    {
        $given = $this->checks->object($given, $path, ['parameter', 'factor', 'offset']);
        $parameter = \is_string($given['parameter'] ?? null) ? $this->parameters[$given['parameter']] ?? null : null;
        if ($parameter === null) {
            $this->checks->problem("$path/parameter", \sprintf('there is no parameter %s; there are %s', Checks::show($given['parameter'] ?? null), implode(', ', array_keys($this->parameters)) ?: 'none'));

            return null;
        }
        $numbers = array_map(
            fn (NumberControl $part): float => $this->checks->number($part, $given[$part->name()] ?? $part->default(), $path . '/' . $part->name()),
            Tie::controls(),
        );

        return new Tie($parameter, $numbers['factor'], $numbers['offset'], $control);
    }
}
