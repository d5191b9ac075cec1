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

    #[ORM\Column(length: 12)]
    public BakeState $state = BakeState::Waiting;

    #[ORM\Column(length: 1000)]
    public string $failure = '';

    /** changes that have been tried */
    #[ORM\Column]
    public int $done = 0;

    /** changes to try; 0 as long as nobody knows */
    #[ORM\Column(name: 'total')]
    public int $all = 0;

    /** how often a worker has begun with it */
    #[ORM\Column]
    public int $attempts = 0;

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
