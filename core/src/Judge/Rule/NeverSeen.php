<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;

final class NeverSeen implements Rule
{
    public function code(): string
    {
        return 'never-seen';
    }

    public function label(): string
    {
        return 'A layer that is never seen';
    }

    public function help(): string
    {
        return 'What is never seen is read all the same.';
    }

    public function severity(): Severity
    {
        return Severity::Doubtful;
    }

    private const LEAST = 0.002;

    public function of(Subject $subject): iterable
    {
        $found = $subject->onStage();
        foreach ($subject->layers() as $path => $layer) {
            $most = max(0.0, ...$found["share $path"] ?? [1.0]);
            if ($most < self::LEAST) {
                yield new Finding($path, \sprintf('“%s” covers at most %.2f %% anywhere on this stage.', $layer->name, 100 * $most), 'Switch it off', Change::none()->put("$path/on", false));
            }
        }
    }
}
