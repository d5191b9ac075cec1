<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Material\Family;
use Rilta\Core\Material\MapSet;

/** The set that a tap reads instead of others of the same family. */
final readonly class Alternate
{
    public function __construct(public Family $family, public MapSet $set)
    {
    }

    /** What is read in place of a set. */
    public function of(MapSet $set): MapSet
    {
        return \in_array($set->name, $this->family->sets, true) ? $this->set : $set;
    }
}
