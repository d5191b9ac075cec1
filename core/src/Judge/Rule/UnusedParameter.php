<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;

final class UnusedParameter implements Rule
{
    public function code(): string
    {
        return 'unused-parameter';
    }

    public function label(): string
    {
        return 'A parameter that nothing follows';
    }

    public function help(): string
    {
        return 'Whoever turns it waits for something to happen.';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function of(Subject $subject): iterable
    {
        $written = json_encode(array_diff_key($subject->document, ['parameters' => 0, 'variants' => 0]), \JSON_THROW_ON_ERROR);
        foreach ($subject->material->parameters as $i => $parameter) {
            if (str_contains($written, '"parameter":' . json_encode($parameter->id, \JSON_THROW_ON_ERROR))) {
                continue;
            }
            $change = Change::none();
            foreach ($subject->material->variants->all as $variant) {
                $change = isset($variant->values[$parameter->id]) ? $change->remove("$variant->path/values/$parameter->id") : $change;
            }
            yield new Finding("/parameters/$i", "Nothing follows “{$parameter->name}”.", 'Delete it', $change->remove("/parameters/$i"));
        }
    }
}
