<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;

final class IdleStep implements Rule
{
    public function code(): string
    {
        return 'idle-step';
    }

    public function label(): string
    {
        return 'A step that changes nothing';
    }

    public function help(): string
    {
        return 'It is computed for every pixel, and nothing is other than without it.';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function of(Subject $subject): iterable
    {
        foreach ($subject->steps() as $path => $use) {
            $idle = $use->kind->idle();
            $values = $use->values->document();
            if ($idle !== null && $idle !== [] && !$use->kind->isOrigin() && array_filter($idle, static fn (float|bool $rest, string $name): bool => ($values[$name] ?? null) !== $rest, \ARRAY_FILTER_USE_BOTH) === []) {
                yield new Finding($path, "{$use->kind->label()} has values at which it changes nothing.", 'Take it out', Change::none()->remove($path));
            }
        }
    }
}
