<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Cost;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Savings;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Material\Reader;

final readonly class OverBudget implements Rule
{
    /** Of what the dearest part saves: what a step has to save to be named in its place. */
    private const MUCH = 0.25;

    public function __construct(private Reader $reader)
    {
    }

    public function code(): string
    {
        return 'over-budget';
    }

    public function label(): string
    {
        return 'Over its budget';
    }

    public function help(): string
    {
        return 'On the devices that it is made for, all else has to wait for it.';
    }

    public function severity(): Severity
    {
        return Severity::Wrong;
    }

    public function of(Subject $subject): iterable
    {
        $over = $subject->profile?->over(Cost::of($subject->lowered)) ?? [];
        if ($over === []) {
            return;
        }
        $saved = (new Savings($this->reader, $subject->maps))->of($subject->document);
        uasort($saved, static fn (Cost $a, Cost $b): int => $b->estimate <=> $a->estimate);
        // A whole layer is more than the step that makes it dear.
        $most = ($saved[array_key_first($saved) ?? ''] ?? null)->estimate ?? 0.0;
        $steps = array_filter($saved, static fn (Cost $one, string $path): bool => str_starts_with($path, '/lanes/') && $one->estimate >= self::MUCH * $most, \ARRAY_FILTER_USE_BOTH);
        $dearest = (string) (array_key_first($steps) ?? array_key_first($saved));
        foreach ($over as $what => [$is, $may]) {
            yield new Finding($dearest, \sprintf('%d %s, and “%s” allows %d.%s', $is, $what, $subject->profile->label, $may, $dearest === '' ? '' : \sprintf(' %s costs most: %d map reads and %d operations.', $this->named($subject, $dearest), $saved[$dearest]->fetches, $saved[$dearest]->operations)));
        }
    }

    private function named(Subject $subject, string $path): string
    {
        $parts = explode('/', $path);

        return $parts[1] === 'lanes'
            ? ($subject->steps()[$path] ?? null)?->kind->label() ?? $path
            : \sprintf('%s“%s”', isset($parts[3]) ? 'A term of the mask of ' : 'The layer ', $subject->layers()["/layers/$parts[2]"]->name ?? $path);
    }
}
