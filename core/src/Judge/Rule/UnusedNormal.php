<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Material\Layer;
use Rilta\Core\Material\Role;

final class UnusedNormal implements Rule
{
    public function code(): string
    {
        return 'unused-normal';
    }

    public function label(): string
    {
        return 'A normal map that nobody reads';
    }

    public function help(): string
    {
        return 'Light sees a flat surface though there is relief to be had.';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function of(Subject $subject): iterable
    {
        foreach ($subject->layers() as $path => $layer) {
            $normal = $layer->set === '' ? null : $subject->maps->find($layer->set)?->map(Role::Normal);
            if ($normal === null) {
                continue;
            }
            $elsewhere = array_filter($subject->layers(), static fn (Layer $other): bool => $other !== $layer && $other->set === $layer->set && \in_array('normal', $other->channels, true));
            if (!\in_array('normal', $layer->channels, true) && array_diff(['colour', 'roughness'], $layer->channels) === [] && $elsewhere === []) {
                yield new Finding("$path/channels", "{$normal->map->name} is there, and the layer does not write normals.", 'Write normals', Change::none()->put("$path/channels", [...$layer->channels, 'normal']));
            } elseif (\in_array('normal', $layer->channels, true) && $layer->finish->changes('relief') && $layer->finish->values->tie('relief') === null && $layer->finish->values->number('relief') === 0.0) {
                yield new Finding("$path/finish/values/relief", "Relief is 0 %: {$normal->map->name} is read for nothing.", 'Relief of 100 %', Change::none()->remove("$path/finish/values/relief"));
            }
        }
    }
}
