<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** A material that is handed over, as it was when that was asked for, under a profile as it was then. */
#[ORM\Entity]
#[ORM\Table(name: 'delivery')]
#[ORM\Index(columns: ['project_id', 'name'])]
class DeliveryRecord
{
    use Identified;
    use Underway;

    /** regions to bake; 0 as long as nobody knows */
    #[ORM\Column(name: 'total')]
    public int $all = 0;

    /** as many deliveries of its name went before it, and one; 0 as long as it is not done */
    #[ORM\Column]
    public int $number = 0;

    /** Whether all of it had been delivered before. */
    #[ORM\Column]
    public bool $unchanged = false;

    /** what all of it follows from */
    #[ORM\Column(length: 64)]
    public string $source = '';

    /** Who had approved the material as it is in it; "" for nobody. */
    #[ORM\Column(length: 120)]
    public string $approvedBy = '';

    /** @var list<array{path: string, sha256: string, bytes: int, meaning: string}> the manifest among them */
    #[ORM\Column(type: 'json')]
    public array $files = [];

    /**
     * @param array<string, mixed> $profile as files have it
     */
    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Project $project,
        /** null if it is gone */
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
        public readonly ?MaterialRecord $material,
        /** of the material, the variant and the profile */
        #[ORM\Column(length: 255)]
        public readonly string $name,
        /** id; "" for the material as it is written */
        #[ORM\Column(length: 80)]
        public readonly string $variant,
        /** JSON */
        #[ORM\Column(type: 'text', length: 16777215)]
        public readonly string $document,
        #[ORM\Column(type: 'json')]
        public readonly array $profile,
        #[ORM\Column]
        public \DateTimeImmutable $asked,
    ) {
    }
}
