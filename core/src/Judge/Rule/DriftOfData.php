<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Material\Layer;

final class DriftOfData implements Rule
{
    public function code(): string
    {
        return 'drift-of-data';
    }

    public function label(): string
    {
        return 'Colours that drift where none are written';
    }

    public function help(): string
    {
        return 'Numbers that drift only colours change nothing of data.';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    private const DRIFTS = ['brightness', 'hue', 'saturation'];

    public function of(Subject $subject): iterable
    {
        foreach ($subject->steps() as $path => $use) {
            $values = $use->values->document();
            $drifting = array_filter(self::DRIFTS, static fn (string $name): bool => \is_float($values[$name] ?? null) && $values[$name] !== 0.0);
            $along = $subject->along($path);
            if ($drifting !== [] && $along !== [] && array_filter($along, static fn (Layer $layer): bool => \in_array('colour', $layer->channels, true)) === []) {
                $change = Change::none();
                foreach ($drifting as $name) {
                    $change = $change->put("$path/values/$name", 0);
                }
                yield new Finding($path, \sprintf('%s lets %s drift, and no layer along its lane writes colour.', $use->kind->label(), implode(' and ', $drifting)), 'Set them to 0', $change);
            }
        }
    }
}
