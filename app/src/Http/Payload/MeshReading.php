<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Mesh\MeshOptions;
use Symfony\Component\Validator\Constraints as Assert;

/** How the file of a mesh is read. */
final readonly class MeshReading
{
    /**
     * @param float   $scale  metres of one unit of the file
     * @param 'y'|'z' $up     the axis that points up in the file
     * @param bool    $turned whether faces are seen from the other side than the file says
     * @param float   $crease degrees between faces up to which they are smooth where the file has no normals
     */
    public function __construct(
        #[Assert\Range(min: MeshOptions::SCALES[0], max: MeshOptions::SCALES[1])]
        public float $scale = 1.0,
        #[Assert\Choice(['y', 'z'])]
        public string $up = 'y',
        public bool $turned = false,
        #[Assert\Range(min: 0, max: 180)]
        public float $crease = MeshOptions::CREASE,
    ) {
    }
}
