<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\Common\Collections\ArrayCollection;
use Doctrine\Common\Collections\Collection;
use Doctrine\ORM\Mapping as ORM;
use Rilta\Core\Mesh\MeshOptions;

/**
 * A mesh of the project's own, in its current version: the files that it came in, and how they are read; or the ready-made one that it was made
 * of; and what was done to it since. What is drawn is derived from them.
 *
 * @phpstan-type Source array{file: string, sha256: string, bytes: int}
 */
#[ORM\Entity]
#[ORM\Table(name: 'mesh')]
#[ORM\UniqueConstraint('mesh_recipe', columns: ['project_id', 'recipe'])]
class MeshRecord
{
    use Identified;

    #[ORM\Column]
    public int $number = 1;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $deletedAt = null;

    /** of all its files */
    #[ORM\Column]
    public int $bytes = 0;

    /** Name of the ready-made mesh that it is made of; "" if it came in files. */
    #[ORM\Column(length: 40)]
    public string $base = '';

    /** @var list<array<string, mixed>> as Stage\MeshEdits reads them */
    #[ORM\Column(type: 'json')]
    public array $edits = [];

    /** Whether it was made by working on an object, and not brought: it is there for that object, and in no list. */
    #[ORM\Column]
    public bool $worked = false;

    /** What it is made of and by, as a hash, if it was made by working on an object. */
    #[ORM\Column(length: 64, nullable: true)]
    public ?string $recipe = null;

    /** @var Collection<int, MeshVersion> those before the current one */
    #[ORM\OneToMany(targetEntity: MeshVersion::class, mappedBy: 'mesh', cascade: ['persist'])]
    #[ORM\OrderBy(['number' => 'ASC'])]
    public Collection $versions;

    /**
     * @param list<Source>         $sources the mesh itself, then what came with it
     * @param array<string, mixed> $options as Mesh\MeshOptions says them
     * @param array<string, mixed> $facts   what the core found out, for lists
     */
    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Project $project,
        #[ORM\Column(length: 120)]
        public string $label,
        #[ORM\Column(type: 'json')]
        public array $sources,
        #[ORM\Column(type: 'json')]
        public array $options,
        #[ORM\Column(type: 'json')]
        public array $facts,
    ) {
        $this->versions = new ArrayCollection();
        $this->bytes = array_sum(array_column($sources, 'bytes'));
    }

    /** What objects of a stage call it. */
    public function name(): string
    {
        return 'own-' . $this->id();
    }

    public function options(): MeshOptions
    {
        return MeshOptions::read($this->options);
    }

    /**
     * Other files, or the same read in another way, take its place; what was is kept.
     *
     * @param list<Source>         $sources
     * @param array<string, mixed> $options
     * @param array<string, mixed> $facts
     */
    public function renew(array $sources, array $options, array $facts): void
    {
        $this->versions->add(new MeshVersion($this, $this->number, $this->sources, $this->options, $this->facts));
        [$this->sources, $this->options, $this->facts] = [$sources, $options, $facts];
        $this->bytes = array_sum(array_column($sources, 'bytes'));
        ++$this->number;
    }
}
