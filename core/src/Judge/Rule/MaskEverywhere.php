<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;

final class MaskEverywhere implements Rule
{
    public function code(): string
    {
        return 'mask-everywhere';
    }

    public function label(): string
    {
        return 'A mask that is the same all over';
    }

    public function help(): string
    {
        return 'A mask that is everywhere costs as if it told places apart.';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    private const MOST = 0.998;

    public function of(Subject $subject): iterable
    {
        $found = $subject->onStage();
        foreach ($subject->layers() as $path => $layer) {
            $least = min(1.0, ...$found["mask $path"] ?? [0.0]);
            if ($least > self::MOST) {
                yield new Finding("$path/mask", \sprintf('The mask of “%s” is at least %.1f %% everywhere on this stage.', $layer->name, 100 * $least), 'Take the mask away', Change::none()->put("$path/mask", []));
            }
        }
    }
}
