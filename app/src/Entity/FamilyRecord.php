<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;
use Rilta\Core\Material\Family;

/** Alternates in a project's library, in their order. */
#[ORM\Entity]
#[ORM\Table(name: 'family')]
#[ORM\UniqueConstraint(columns: ['project_id', 'name'])]
class FamilyRecord
{
    use Identified;

    /** @param non-empty-list<string> $sets names of map sets */
    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false)]
        public readonly Project $project,
        #[ORM\Column(length: 80)]
        public string $name,
        #[ORM\Column(type: 'json')]
        public array $sets,
    ) {
    }

    public function family(): Family
    {
        return new Family($this->name, $this->sets);
    }
}
