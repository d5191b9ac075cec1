<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** A step as it stands in a lane of a document. */
final readonly class StepUse
{
    public function __construct(public StepKind $kind, public bool $on, public Values $values)
    {
    }
}
