<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;
use Rilta\Core\Bake\Edges;
use Rilta\Core\Format\PictureFormat;

/** A request to compute images from a document as it was then: a material's channels, or the maps of a recipe. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['project_id', 'name'])]
class Bake
{
    use Identified;

    #[ORM\Column(length: 12)]
    public BakeState $state = BakeState::Waiting;

    #[ORM\Column(length: 1000)]
    public string $failure = '';

    /** What was found out about it, as JSON, once it is done. */
    #[ORM\Column(type: 'text')]
    public string $facts = '{}';

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false)]
        public readonly Project $project,
        #[ORM\Column(length: 160)]
        public readonly string $name,
        #[ORM\Column(type: 'text', length: 16777215)]
        public readonly string $document,
        /** pixels a side */
        #[ORM\Column]
        public readonly int $size,
        // Not readonly: Doctrine compares objects by identity and could not refresh the row.
        #[ORM\Column]
        public \DateTimeImmutable $askedAt,
        /** of the maps that it reads; "" for bakes of before it was taken */
        #[ORM\Column(length: 64)]
        public readonly string $maps = '',
        /** whose maps it makes; null for a material */
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: true, onDelete: 'CASCADE')]
        public readonly ?RecipeRecord $recipe = null,
        /** what becomes of the edges of a tile whose copies do not line up */
        #[ORM\Column(length: 16)]
        public readonly Edges $edges = Edges::AsComputed,
        /** metres that a side of the tile may have; null for the usual */
        #[ORM\Column(nullable: true)]
        public readonly ?float $longest = null,
        /** that it was asked for from; null if it is gone, or was never said */
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
        public readonly ?MaterialRecord $material = null,
        /** @var ?array<string, mixed> the object whose surface it is a picture of, as requests have it; several, with what they wear; null for a tile */
        #[ORM\Column(type: 'json', nullable: true)]
        public readonly ?array $onto = null,
        /** what pictures are written as */
        #[ORM\Column(length: 16, options: ['default' => 'png'])]
        public readonly PictureFormat $files = PictureFormat::Png,
        /** whether green of normals grows upwards */
        #[ORM\Column(options: ['default' => true])]
        public readonly bool $greenUp = true,
    ) {
    }
}
