<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Material\Layer;

final class SplitRoles implements Rule
{
    public function code(): string
    {
        return 'split-roles';
    }

    public function label(): string
    {
        return 'Maps of one set along two lanes';
    }

    public function help(): string
    {
        return 'Colour and normals of one material that lie at different places tear the surface apart.';
    }

    public function severity(): Severity
    {
        return Severity::Wrong;
    }

    public function of(Subject $subject): iterable
    {
        $layers = array_filter($subject->layers(), static fn (Layer $layer): bool => $layer->set !== '');
        $writes = static fn (Layer $layer, string $set, string $channel): bool => $layer->set === $set && \in_array($channel, $layer->channels, true);
        foreach ($layers as $path => $layer) {
            if (!$writes($layer, $layer->set, 'normal') || $writes($layer, $layer->set, 'colour')) {
                continue;
            }
            $coloured = array_values(array_unique(array_map(static fn (Layer $other): string => $other->lane, array_filter($layers, static fn (Layer $other): bool => $writes($other, $layer->set, 'colour')))));
            $relieved = array_map(static fn (Layer $other): string => $other->lane, array_filter($layers, static fn (Layer $other): bool => $writes($other, $layer->set, 'normal')));
            // Grain of its own may lie over normals that follow the colour.
            if ($coloured !== [] && array_intersect($coloured, $relieved) === []) {
                yield new Finding("$path/lane", \sprintf('The normals of %s follow the lane “%s”, its colour “%s”.', $layer->set, $layer->lane, $coloured[0]), 'Put both on one lane', Change::none()->put("$path/lane", $coloured[0]));
            }
        }
    }
}
