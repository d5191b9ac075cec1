<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Bake\Edges;
use Rilta\Core\Bake\MeshTarget;
use Rilta\Core\Bake\StageTarget;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Material\Writer;
use Symfony\Component\Validator\Constraints as Assert;

/**
 * A tile that is wanted.
 *
 * @phpstan-import-type MeshTargetJson from MeshTarget
 * @phpstan-import-type StageTargetJson from StageTarget
 *
 * @phpstan-type BakeTargetJson MeshTargetJson|StageTargetJson
 */
final readonly class BakeOrder
{
    public const SIZES = [64, 128, 256, 512, 1024, 2048, 4096, 8192];

    /**
     * @param float  $size     pixels a side
     * @param string $variant  "" for the material as it is written
     * @param Edges  $edges    what becomes of the edges of a tile whose copies do not line up
     * @param ?float $longest  metres that a side may have
     * @param float  $material that it is asked for from
     * @param mixed  $onto     the object whose surface it is a picture of, or several; none for a tile
     * @param string $green    where that of normals grows: "+y" or "-y"
     */
    public function __construct(
        #[Assert\NotNull]
        #[Of('MaterialDocument', Writer::class)]
        public mixed $document,
        #[Assert\Choice([64.0, 128.0, 256.0, 512.0, 1024.0, 2048.0, 4096.0, 8192.0])]
        #[Assert\DivisibleBy(1)]
        public float $size,
        #[Assert\Length(max: 80)]
        public string $variant = '',
        public Edges $edges = Edges::AsComputed,
        #[Assert\Range(min: 0.001, max: 100000)]
        public ?float $longest = null,
        #[Assert\Positive]
        #[Assert\DivisibleBy(1)]
        public ?float $material = null,
        #[Of('BakeTarget', self::class)]
        public mixed $onto = null,
        public PictureFormat $files = PictureFormat::Png,
        #[Assert\Choice(['+y', '-y'])]
        public string $green = '+y',
    ) {
    }
}
