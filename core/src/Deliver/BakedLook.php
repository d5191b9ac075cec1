<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Material\SurfaceKind;

/** What was baked into an object's UVs for what it wears. */
final readonly class BakedLook
{
    /**
     * @param string                $name    of the material
     * @param int                   $size    pixels a side
     * @param array<string, string> $rows    of each channel that there is; normals along the surface, green upwards
     * @param SurfaceKind           $cover   what kind of surface it is
     * @param float                 $glow    what emission is to be multiplied by
     * @param ?string               $section that it is of; null for all of the object
     * @param string                $variant of those of the file in which it is worn; "" for as it is
     */
    public function __construct(public string $name, public int $size, public array $rows, public SurfaceKind $cover, public float $glow = 1.0, public ?string $section = null, public string $variant = '')
    {
    }
}
