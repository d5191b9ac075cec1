<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;

final class MapFindings implements Rule
{
    public function code(): string
    {
        return 'map-finding';
    }

    public function label(): string
    {
        return 'A map with something wrong';
    }

    public function help(): string
    {
        return 'What is wrong with a map is wrong wherever it is read.';
    }

    public function severity(): Severity
    {
        return Severity::Doubtful;
    }

    public function of(Subject $subject): iterable
    {
        foreach ($subject->lowered->layers as $laid) {
            foreach ($laid->maps() as $map) {
                foreach ($subject->mapFindings[$map->name] ?? [] as $found) {
                    $fix = $found->fixes[0] ?? null;
                    yield new Finding("$laid->path/set", "$map->name: $found->text", $fix?->label() ?? ($found->encoding === null ? '' : 'Read it as ' . $found->encoding->value), map: $map->name, mend: $fix->value ?? ($found->encoding === null ? '' : 'reading'), severity: $found->grave ? Severity::Wrong : Severity::Doubtful);
                }
            }
        }
    }
}
