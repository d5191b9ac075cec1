<?php

declare(strict_types=1);

namespace Rilta\Core\Target;

use Rilta\Core\Lowering\Lowered;

/** A language that materials are printed in. */
interface Target
{
    /** By which commands call it. */
    public function name(): string;

    /** One text that stands on its own, but for what a host hands to it. */
    public function program(Lowered $lowered): string;
}
