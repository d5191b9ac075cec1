<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** A material's current document. The version grows by one with every save. */
#[ORM\Entity]
#[ORM\Table(name: 'material')]
#[ORM\Index(columns: ['project_id', 'deleted_at', 'name'])]
class MaterialRecord
{
    use Identified;

    #[ORM\Column]
    public int $version = 1;

    /** How its first lane reads, for the shelf. */
    #[ORM\Column(length: 500)]
    public string $sentence = '';

    /** The first of its mistakes, with its place; "" for none. */
    #[ORM\Column(length: 500)]
    public string $problem = '';

    #[ORM\Column]
    public int $problems = 0;

    /** @var list<string> names of the map sets that it names */
    #[ORM\Column(type: 'json')]
    public array $readsSets = [];

    /** @var list<string> names of the families that it names */
    #[ORM\Column(type: 'json')]
    public array $readsFamilies = [];

    /** By which way of reading documents the five above were found out; 0 for none. */
    #[ORM\Column(type: 'smallint')]
    public int $indexed = 0;

    /** Since when it is in the bin. */
    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $deletedAt = null;

    /** What the browser called the save that made this version, so that the same save sent twice is one. */
    #[ORM\Column(length: 64)]
    public string $savedBy = '';

    /** On which it was last judged. */
    #[ORM\ManyToOne]
    #[ORM\JoinColumn(onDelete: 'SET NULL')]
    public ?StageRecord $stage = null;

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
