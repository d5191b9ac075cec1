<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** A document as it was saved, or set aside in a conflict: nothing is ever lost. */
#[ORM\Entity]
#[ORM\Index(columns: ['material_id', 'version'])]
class Revision
{
    use Identified;

    /** What people call it; "" for nothing. */
    #[ORM\Column(length: 120)]
    public string $name = '';

    /** Who has approved it; "" for nobody. */
    #[ORM\Column(length: 120)]
    public string $approvedBy = '';

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $approvedAt = null;

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly MaterialRecord $material,
        #[ORM\Column]
        public readonly int $version,
        #[ORM\Column(type: 'text', length: 16777215)]
        public readonly string $document,
        // Not readonly: Doctrine compares objects by identity and could not refresh the row.
        #[ORM\Column]
        public \DateTimeImmutable $savedAt,
        /** true for a version that lost a conflict and was kept beside */
        #[ORM\Column]
        public readonly bool $aside = false,
        /** Whether it was on the way of something that is being dragged: others begin with it, and soon nobody does. */
        #[ORM\Column(options: ['default' => false])]
        public bool $passing = false,
    ) {
    }
}
