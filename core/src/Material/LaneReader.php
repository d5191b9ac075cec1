<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** Reads the lanes of a document. A step that cannot be used is left out, a value that cannot be used takes its default. */
final readonly class LaneReader
{
    private ValueReader $values;

    /**
     * @param array<string, StepKind>  $kinds      by name
     * @param array<string, Parameter> $parameters by id
     */
    public function __construct(private Checks $checks, private array $kinds, array $parameters)
    {
        $this->values = new ValueReader($checks, $parameters);
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

        return new StepUse($kind, $on, $this->values->read($kind->controls(), $step['values'] ?? [], "$path/values"));
    }
}
