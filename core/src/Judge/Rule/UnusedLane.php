<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;

final class UnusedLane implements Rule
{
    public function code(): string
    {
        return 'unused-lane';
    }

    public function label(): string
    {
        return 'A lane that no layer lies on';
    }

    public function help(): string
    {
        return 'It stands on the board, and changes nothing.';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function of(Subject $subject): iterable
    {
        $written = json_encode(array_diff_key($subject->document, ['lanes' => 0]), \JSON_THROW_ON_ERROR);
        foreach ($subject->material->lanes as $i => $lane) {
            if (\count($subject->material->lanes) > 1 && !str_contains($written, '"lane":' . json_encode($lane->id, \JSON_THROW_ON_ERROR))) {
                yield new Finding("/lanes/$i", "No layer and no mask follows “{$lane->name}”.", 'Delete it', Change::none()->remove("/lanes/$i"));
            }
        }
    }
}
