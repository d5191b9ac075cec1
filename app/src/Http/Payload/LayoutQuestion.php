<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Bake\MeshTarget;
use Symfony\Component\Validator\Constraints as Assert;

/** How the surface of an object lies in one of its sets of UVs. */
final readonly class LayoutQuestion
{
    /** @param float $size texels a side, of what would be baked */
    public function __construct(
        #[Assert\NotNull]
        #[Of('MeshTarget', MeshTarget::class)]
        public mixed $onto,
        #[Assert\Choice([256.0, 512.0, 1024.0, 2048.0, 4096.0])]
        public float $size,
    ) {
    }
}
