<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** A material's current document. The version grows by one with every save. */
#[ORM\Entity]
#[ORM\Table(name: 'material')]
class MaterialRecord
{
    use Identified;

    #[ORM\Column]
    public int $version = 1;

    /** Whether new materials may start from it. */
    #[ORM\Column]
    public bool $template = false;

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false)]
        public readonly Project $project,
        #[ORM\Column(length: 120)]
        public string $name,
        #[ORM\Column(type: 'text', length: 16777215)]
        public string $document,
        #[ORM\Column]
        public \DateTimeImmutable $changedAt,
    ) {
    }
}
