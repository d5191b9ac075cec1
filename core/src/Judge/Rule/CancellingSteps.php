<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Php\Binding;

final class CancellingSteps implements Rule
{
    public function code(): string
    {
        return 'cancelling-steps';
    }

    public function label(): string
    {
        return 'Steps that cancel each other';
    }

    public function help(): string
    {
        return 'Both are computed, and nothing comes of it.';
    }

    public function severity(): Severity
    {
        return Severity::Doubtful;
    }

    private const NEAR = 1e-9;

    public function of(Subject $subject): iterable
    {
        $stations = array_column($subject->lowered->stations, null, 'path');
        foreach ($subject->material->lanes as $l => $lane) {
            $on = array_keys(array_filter($lane->steps, static fn ($use): bool => $use->on));
            foreach ($on as $i => $s) {
                $next = $on[$i + 1] ?? null;
                if ($i === 0 || $next === null || !isset($stations["/lanes/$l/steps/{$on[$i - 1]}"], $stations["/lanes/$l/steps/$s"], $stations["/lanes/$l/steps/$next"])) {
                    continue;
                }
                [$before, $between, $after] = array_map(static fn (int $at): array => $stations["/lanes/$l/steps/$at"]->taps, [$on[$i - 1], $s, $next]);
                if (\count($before) === \count($between) && \count($before) === \count($after) && self::same($subject, $before, $after) && !self::same($subject, $before, $between)) {
                    $labels = [$lane->steps[$s]->kind->label(), $lane->steps[$next]->kind->label()];
                    yield new Finding("/lanes/$l/steps/$next", \sprintf('After %s, %s brings everything back to where it was.', $labels[0], $labels[1]), 'Take both out', Change::none()->remove("/lanes/$l/steps/$next")->remove("/lanes/$l/steps/$s"));
                }
            }
        }
    }

    /**
     * Whether taps lie at the same places in the same way, wherever they are asked.
     *
     * @param list<Tap> $some
     * @param list<Tap> $others
     */
    private static function same(Subject $subject, array $some, array $others): bool
    {
        $g = $subject->lowered->graph;
        $fields = [];
        foreach ($some as $t => $tap) {
            $other = $others[$t];
            $fields["weight $t"] = $g->sub($tap->weight, $other->weight);
            foreach (['uv', 'dx'] as $part) {
                $fields["$part $t"] = $g->sub($tap->at->$part, $other->at->$part);
            }
            if ([$tap->drift, $tap->joint, $tap->at->slope, $tap->cover->inside] !== [$other->drift, $other->joint, $other->at->slope, $other->cover->inside]) {
                return false;
            }
        }
        $kernel = $subject->compiler->compile($g, $fields, array_fill_keys(array_keys(Surface::types()), Binding::Constant));
        foreach ([[0.31, 0.82, -0.47], [-1.73, 2.9, 0.61], [5.3, 0.04, 3.7]] as $i => $place) {
            $inputs = SurfaceSample::at($place, [0.3 + 0.2 * $i, 0.9, 0.5], [0.37 * $i + 0.2, 0.71])->inputs;
            foreach ($kernel->points(1, $subject->lowered->uniforms(7.3), $subject->texels(), $inputs) as $parts) {
                foreach ($parts as $part) {
                    if (abs((float) $part[0]) > self::NEAR) {
                        return false;
                    }
                }
            }
        }

        return true;
    }
}
