<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Material\Layer;
use Rilta\Core\Material\Role;
use Rilta\Core\Material\SurfaceKind;

final class NothingCut implements Rule
{
    public function code(): string
    {
        return 'nothing-cut';
    }

    public function label(): string
    {
        return 'An open surface without holes';
    }

    public function help(): string
    {
        return 'It is drawn as if it had holes, which costs, and has none.';
    }

    public function severity(): Severity
    {
        return Severity::Doubtful;
    }

    public function of(Subject $subject): iterable
    {
        if ($subject->lowered->cover->kind() === SurfaceKind::OPAQUE) {
            return;
        }
        $open = static fn (Layer $layer): bool => ($layer->set !== '' && ($subject->maps->find($layer->set)?->map(Role::Opacity) !== null || $subject->maps->find($layer->set)?->map(Role::BaseColour) !== null)) || $layer->finish->changes('opacityFactor', 'opacityTo', 'opacityFrom');
        // The lowest layer that has no mask covers all that it is opaque on.
        if (array_filter($subject->layers(), $open) === []) {
            yield new Finding('/surface/values/kind', \sprintf('It is %s, and no layer says where there is less than all of it.', $subject->lowered->cover->kind() === SurfaceKind::CUT_OUT ? 'cut out' : 'translucent'), 'Make it opaque', Change::none()->put('/surface/values/kind', SurfaceKind::OPAQUE));
        }
    }
}
