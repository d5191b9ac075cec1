<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** A recipe's current document. The version grows by one with every save. */
#[ORM\Entity]
#[ORM\Table(name: 'recipe')]
class RecipeRecord
{
    use Identified;

    #[ORM\Column]
    public int $version = 1;

    /** Since when it is in the bin. */
    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $deletedAt = null;

    /** What the browser called the save that made this version. */
    #[ORM\Column(length: 64)]
    public string $savedBy = '';

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
