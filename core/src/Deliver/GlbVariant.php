<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\Material;

/** A variant that a GLB file can be switched to. */
final readonly class GlbVariant
{
    public function __construct(public string $name, public Material $material, public Lowered $lowered)
    {
    }
}
