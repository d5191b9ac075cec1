<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** What a person is in a project. */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['project_id', 'person_id'])]
class Membership
{
    use Identified;

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Project $project,
        #[ORM\ManyToOne(fetch: 'EAGER')]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Person $person,
        #[ORM\Column(length: 12)]
        public Role $role,
    ) {
    }
}
