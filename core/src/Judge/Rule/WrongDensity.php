<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\StageSamples;
use Rilta\Core\Judge\Subject;

final class WrongDensity implements Rule
{
    public function code(): string
    {
        return 'wrong-density';
    }

    public function label(): string
    {
        return 'Too few or too many texels';
    }

    public function help(): string
    {
        return 'Too few are seen as a blur from near by, too many fill memory that shows nothing.';
    }

    public function severity(): Severity
    {
        return Severity::Doubtful;
    }

    private const FEW = 0.5;
    private const MANY = 4.0;

    public function of(Subject $subject): iterable
    {
        $found = array_values(array_filter($subject->onStage()['density'] ?? [], static fn (float $one): bool => $one > 0.0));
        if (\count($found) < StageSamples::COUNT / 20) {
            return;
        }
        sort($found);
        $median = $found[intdiv(\count($found), 2)];
        $wanted = $subject->lowered->cover->values->number('density');
        if ($median >= self::FEW * $wanted && $median <= self::MANY * $wanted) {
            return;
        }
        $text = \sprintf('%.0f texels a metre on this stage in the middle, %.0f to %.0f; %.0f are wanted.', $median, $found[0], $found[\count($found) - 1], $wanted);
        foreach ($subject->steps('size') as $path => $use) {
            if ($subject->along($path) !== [] && $use->values->choice('by') === 'metres' && $use->values->flag('linked') && $use->values->tie('u') === null) {
                $u = round($use->values->number('u') * $median / $wanted, 3);
                yield new Finding("$path/values/u", $text, \sprintf('A size of %.3g m', $u), Change::none()->put("$path/values/u", $u));

                return;
            }
        }
        yield new Finding('/surface/values/density', $text);
    }
}
