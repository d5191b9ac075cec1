<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** Who did what, when, and from where. It stays when the person goes. */
#[ORM\Entity]
#[ORM\Table(name: 'audit')]
#[ORM\Index(columns: ['project_id', 'id'])]
class AuditEntry
{
    use Identified;

    #[ORM\Column]
    public \DateTimeImmutable $at;

    /** How often in a row. */
    #[ORM\Column]
    public int $times = 1;

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(onDelete: 'CASCADE')]
        public readonly ?Project $project,
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(onDelete: 'SET NULL')]
        public readonly ?Person $person,
        #[ORM\Column(length: 190)]
        public readonly string $who,
        #[ORM\Column(length: 190)]
        public readonly string $what,
        #[ORM\Column(length: 190)]
        public readonly string $target,
        #[ORM\Column(length: 64)]
        public readonly string $address,
    ) {
        $this->at = new \DateTimeImmutable();
    }
}
