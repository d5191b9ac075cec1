<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Material\StepKind;

/** One operation on a lane: its declaration and what it does to the taps. */
interface Step extends StepKind
{
    /**
     * @param non-empty-list<Tap>|null $taps what the step before gave; null for an origin
     *
     * @return non-empty-list<Tap>
     */
    public function lower(StepContext $context, ?array $taps): array;
}
