<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

/** Something that materials are looked through for. */
interface Rule
{
    /** The word for it in reports. */
    public function code(): string;

    /** A few words that head it. */
    public function label(): string;

    /** Why it matters, in one sentence. */
    public function help(): string;

    public function severity(): Severity;

    /** @return iterable<Finding> */
    public function of(Subject $subject): iterable;
}
