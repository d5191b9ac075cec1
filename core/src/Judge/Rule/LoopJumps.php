<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;

final class LoopJumps implements Rule
{
    public function code(): string
    {
        return 'loop-jumps';
    }

    public function label(): string
    {
        return 'What moves and jumps';
    }

    public function help(): string
    {
        return 'Eyes are drawn to a jump more than to anything else on a screen.';
    }

    public function severity(): Severity
    {
        return Severity::Wrong;
    }

    public function of(Subject $subject): iterable
    {
        foreach ($subject->steps('pan') as $path => $use) {
            foreach (['u' => 'wrapU', 'v' => 'wrapV'] as $axis => $wrap) {
                if ($use->values->number($axis) === 0.0) {
                    continue;
                }
                foreach ($subject->along($path) as $layer) {
                    foreach (($layer->set === '' ? null : $subject->maps->find($layer->set))?->images() ?? [] as $map) {
                        if ($map->sampling->{$wrap} === 'edge') {
                            yield new Finding("$path/values/$axis", \sprintf('The maps move along %s, and %s ends at its edge: its last texels are drawn out.', strtoupper($axis), $map->name), map: $map->name);
                        }
                    }
                }
            }
        }
        foreach ($subject->steps('reach') as $path => $use) {
            $keys = $use->values->choice('input') === 'keys' ? $use->values->rows('keys') : [];
            [$first, $last] = [$keys[0] ?? null, $keys[\count($keys) - 1] ?? null];
            if ($first === null || $last === null || !\is_float($first['x']) || !\is_float($last['x']) || !\is_float($first['y']) || !\is_float($last['y'])) {
                continue;
            }
            $far = hypot($last['x'] - $first['x'], $last['y'] - $first['y']);
            if ($far > 1e-6) {
                $end = "$path/values/keys/" . (\count($keys) - 1);
                yield new Finding($end, \sprintf('From its last key it starts again %.2f away.', $far), 'End where it begins', Change::none()->put("$end/x", $first['x'])->put("$end/y", $first['y']));
            }
        }
    }
}
