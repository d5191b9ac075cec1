<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Material\Role;
use Rilta\Core\Material\SurfaceKind;

final class LikeACutOut implements Rule
{
    public function code(): string
    {
        return 'like-a-cut-out';
    }

    public function label(): string
    {
        return 'Translucent where holes would do';
    }

    public function help(): string
    {
        return 'What is seen through is drawn after all else, in an order, and throws no light shadow; holes cost little.';
    }

    public function severity(): Severity
    {
        return Severity::Doubtful;
    }

    /** Of 0…1: what is neither there nor not. */
    private const BETWEEN = [0.06, 0.94];
    private const FEW = 0.03;

    public function of(Subject $subject): iterable
    {
        if ($subject->lowered->cover->kind() !== SurfaceKind::TRANSLUCENT) {
            return;
        }
        $seen = [0, 0];
        foreach ($subject->layers() as $layer) {
            $reading = $layer->set === '' ? null : $subject->maps->find($layer->set)?->map(Role::Opacity);
            if ($reading === null || $layer->finish->changes('opacityFactor', 'opacityTo', 'opacityFrom') || $layer->numbers->number('opacity') < 100.0) {
                return;
            }
            $texels = $subject->maps->all($reading->map);
            $slot = $reading->map->slot();
            $shift = $slot->samples === 1 ? 0 : 8 * max(0, (int) strpos('xyzw', $reading->channels === '' ? 'x' : $reading->channels));
            $most = $slot->deep ? 65535 : 255;
            for ($i = 0, $n = $reading->map->width * $reading->map->height; $i < $n; ++$i) {
                $value = ($slot->samples === 1 ? $texels[$i] : $texels[$i] >> $shift & 255) / $most;
                ++$seen[(int) ($value > self::BETWEEN[0] && $value < self::BETWEEN[1])];
            }
        }
        if (array_sum($seen) > 0 && $seen[1] / array_sum($seen) < self::FEW) {
            yield new Finding('/surface/values/kind', \sprintf('%.1f %% of its opacity lies between all and nothing.', 100 * $seen[1] / array_sum($seen)), 'Cut holes', Change::none()->put('/surface/values/kind', SurfaceKind::CUT_OUT));
        }
    }
}
