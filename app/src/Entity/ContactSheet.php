<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** Variants of a material, seen from several places, as one picture: what it looked like that day. */
#[ORM\Entity]
#[ORM\Table(name: 'contact_sheet')]
class ContactSheet
{
    use Identified;

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly MaterialRecord $material,
        #[ORM\Column(length: 120)]
        public string $name,
        // Not readonly: Doctrine compares objects by identity and could not refresh the row.
        #[ORM\Column]
        public \DateTimeImmutable $made,
        /** of the PNG */
        #[ORM\Column(length: 64)]
        public readonly string $sha256,
        #[ORM\Column]
        public readonly int $bytes,
        #[ORM\Column]
        public readonly int $width,
        #[ORM\Column]
        public readonly int $height,
    ) {
    }
}
