<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;

final class CutRepeats implements Rule
{
    public function code(): string
    {
        return 'cut-repeats';
    }

    public function label(): string
    {
        return 'A size that does not divide what it fills';
    }

    public function help(): string
    {
        return 'A repeat that is cut shows an edge where the next one begins.';
    }

    public function severity(): Severity
    {
        return Severity::Doubtful;
    }

    private const NEAR = 0.02;

    public function of(Subject $subject): iterable
    {
        foreach ($subject->steps('place') as $path => $use) {
            foreach (['repeatsU', 'repeatsV'] as $name) {
                $repeats = $use->values->number($name);
                if ($use->values->tie($name) === null && \in_array($use->values->choice('outside'), ['repeat', 'mirror'], true) && self::off($repeats)) {
                    yield new Finding("$path/values/$name", \sprintf('%.2f repeats fill the rectangle: the last one is cut.', $repeats), \sprintf('%d repeats', max(1, round($repeats))), Change::none()->put("$path/values/$name", max(1.0, round($repeats))));
                }
            }
        }
        foreach ($subject->steps('bond') as $path => $bond) {
            [$length, $width] = [$bond->values->number('length'), $bond->values->number('width')];
            if ($bond->values->choice('coordinate') !== 'surface' || $bond->values->choice('laid') === 'hexagon') {
                continue;
            }
            foreach ($subject->steps('size') as $at => $size) {
                if (explode('/', $at)[2] !== explode('/', $path)[2] || $size->values->choice('by') !== 'metres' || $size->values->tie('u') !== null || self::breaks($subject, $path)) {
                    continue;
                }
                $u = $size->values->number('u');
                if (self::off($u / $length) && self::off($length / $u) && self::off($u / $width) && self::off($width / $u)) {
                    $whole = max(1.0, round($u / $length)) * $length;
                    yield new Finding("$at/values/u", \sprintf('A repeat of %.3g m holds %.2f pieces of %.3g m: pieces and maps drift apart.', $u, $u / $length, $length), \sprintf('A repeat of %.3g m', $whole), Change::none()->put("$at/values/u", round($whole, 6)));
                }
            }
        }
    }

    private static function off(float $times): bool
    {
        return $times < 0.5 || abs($times - round($times)) > self::NEAR;
    }

    /** Whether something after a bond gives every piece a place of its own. */
    private static function breaks(Subject $subject, string $bond): bool
    {
        foreach ($subject->steps('scatter') as $path => $use) {
            if (explode('/', $path)[2] === explode('/', $bond)[2] && $use->values->choice('by') === 'piece') {
                return true;
            }
        }

        return false;
    }
}
