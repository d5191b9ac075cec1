<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** A map set read along a lane. */
final readonly class Layer
{
    /** @param string $lane the lane's id */
    public function __construct(public string $id, public string $name, public string $lane, public string $set)
    {
    }
}
