<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** A search for what hides the repeat of a document. */
#[ORM\Entity]
#[ORM\Table(name: 'repeat_search')]
class RepeatSearch
{
    use Identified;
    use Underway;

    /** changes to try; 0 as long as nobody knows */
    #[ORM\Column(name: 'total')]
    public int $all = 0;

    /** @var ?array<string, mixed> what was found */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $found = null;

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Project $project,
        /** JSON */
        #[ORM\Column(type: 'text', length: 16777215)]
        public readonly string $document,
        /** map reads that a pixel may cost */
        #[ORM\Column]
        public readonly int $fetches,
        #[ORM\Column]
        public \DateTimeImmutable $asked,
    ) {
    }
}
