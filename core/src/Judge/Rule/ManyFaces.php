<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Lowering\LaneCost;

final class ManyFaces implements Rule
{
    public function code(): string
    {
        return 'many-faces';
    }

    public function label(): string
    {
        return 'More faces projected than are seen';
    }

    public function help(): string
    {
        return 'Each face is read as often as all the others, whether it is seen or not.';
    }

    public function severity(): Severity
    {
        return Severity::Doubtful;
    }

    private const ONE = 0.99;

    public function of(Subject $subject): iterable
    {
        $found = $subject->onStage();
        foreach ($subject->material->lanes as $l => $lane) {
            $sums = [];
            foreach (['x', 'y', 'z'] as $axis) {
                if (isset($found["face $l $axis"])) {
                    $sums[$axis] = array_sum($found["face $l $axis"]);
                }
            }
            $all = array_sum($sums);
            $most = $sums === [] ? 0.0 : max($sums);
            // Lower down a lane, pieces of another face may be meant.
            if (\count($sums) < 2 || $all <= 0.0 || $most / $all < self::ONE || $lane->steps[0]->values->follows('faces') !== null) {
                continue;
            }
            $axis = (string) array_search($most, $sums, true);
            $reads = LaneCost::of($subject->lowered, "/lanes/$l", $lane->id)->fetches;
            yield new Finding("/lanes/$l/steps/0/values/faces", \sprintf('%.1f %% of what wears it looks along %s; the others cost %d of %d map reads.', 100 * $most / $all, strtoupper($axis), $reads - intdiv($reads, \count($sums)), $reads), 'Project along ' . strtoupper($axis) . ' alone', Change::none()->put("/lanes/$l/steps/0/values/faces", $axis));
        }
    }
}
