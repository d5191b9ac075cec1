<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Material\Role;

final class ReliefWithoutNormal implements Rule
{
    public function code(): string
    {
        return 'relief-without-normal';
    }

    public function label(): string
    {
        return 'Relief without normals';
    }

    public function help(): string
    {
        return 'A slider that moves nothing hides that a map is missing.';
    }

    public function severity(): Severity
    {
        return Severity::Doubtful;
    }

    public function of(Subject $subject): iterable
    {
        foreach ($subject->layers() as $path => $layer) {
            $set = $layer->set === '' ? null : $subject->maps->find($layer->set);
            if ($set === null || !$layer->finish->changes('relief') || ($layer->finish->changes('reliefSource') && $layer->finish->values->choice('reliefSource') !== 'map') || $set->map(Role::Normal) !== null) {
                continue;
            }
            $said = round($layer->finish->values->number('relief'));
            yield $set->map(Role::Height) !== null
                ? new Finding("$path/finish/values/relief", "Relief is $said %, and $set->name has no normal map; it has heights.", 'Slopes from the heights', Change::none()->put("$path/finish/values/reliefSource", 'height'))
                : new Finding("$path/finish/values/relief", "Relief is $said %, and $set->name has no normal map.", 'Take the relief out', Change::none()->remove("$path/finish/values/relief"));
        }
    }
}
