<?php

declare(strict_types=1);

namespace Rilta\Core\Target;

use Rilta\Core\Lowering\Lowered;

/** A language that materials are printed in. */
interface Target
{
    /** By which commands call it. */
    public function name(): string;

    /** What people call it. */
    public function label(): string;

    /** One text that stands on its own, but for what a host hands to it. */
    public function program(Lowered $lowered, Options $options = new Options()): string;

    /** What the same program asks of its host. */
    public function interface(Lowered $lowered, Options $options = new Options()): ProgramInterface;

    /** What files of it end with. */
    public function extension(): string;
}
