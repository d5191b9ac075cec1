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
                    [$label, $mend] = match (true) {
                        $fix !== null => [$fix->label(), $fix->value],
                        $found->encoding !== null && $found->role === null => ["Read it as {$found->encoding->value}", "read-as-{$found->encoding->value}"],
                        default => ['', ''],
                    };
                    yield new Finding("$laid->path/set", "$map->name: $found->text", $label, map: $map->name, mend: $mend, severity: $found->grave ? Severity::Wrong : Severity::Doubtful);
                }
            }
        }
    }
}
