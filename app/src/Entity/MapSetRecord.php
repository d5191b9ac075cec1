<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\Common\Collections\ArrayCollection;
use Doctrine\Common\Collections\Collection;
use Doctrine\ORM\Mapping as ORM;
use Rilta\Core\Check\Finding;
use Rilta\Core\Check\SetCheck;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\Role;

/** The maps of one physical material in a project's library. */
#[ORM\Entity]
#[ORM\Table(name: 'map_set')]
#[ORM\UniqueConstraint(columns: ['project_id', 'name'])]
#[ORM\HasLifecycleCallbacks]
class MapSetRecord
{
    use Identified;

    /** @var array<string, mixed>|null how its maps are cut, if they are sheets */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $cut = null;

    /** what its maps were made from, if from a recipe */
    #[ORM\ManyToOne]
    #[ORM\JoinColumn(nullable: true, onDelete: 'SET NULL')]
    public ?RecipeRecord $recipe = null;

    /** the SHA-256 of the recipe's document as it was when they were made */
    #[ORM\Column(length: 64)]
    public string $cooked = '';

    /** @var list<string> */
    #[ORM\Column(type: 'json')]
    public array $tags = [];

    /** what a search finds it by; follows all that is known of its maps */
    #[ORM\Column(type: 'text', length: 65535)]
    public string $words = '';

    /** how many maps it has now */
    #[ORM\Column]
    public int $held = 0;

    /** whether anything is found wrong with it */
    #[ORM\Column]
    public bool $faulty = false;

    /** @var Collection<int, MapRecord> deleted ones as well */
    #[ORM\OneToMany(targetEntity: MapRecord::class, mappedBy: 'set', cascade: ['persist'])]
    #[ORM\OrderBy(['id' => 'ASC'])]
    public Collection $all;

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false)]
        public readonly Project $project,
        #[ORM\Column(length: 80)]
        public string $name,
        /** metres that one repeat covers */
        #[ORM\Column]
        public float $extent,
    ) {
        $this->all = new ArrayCollection();
    }

    /** Before anything is stored: what a search finds the set by. */
    #[ORM\PreFlush]
    public function reindex(): void
    {
        $maps = $this->maps();
        $found = array_map(static fn (array $one): Finding => $one['finding'], $maps === [] ? [] : $this->check($maps));
        $words = [$this->name, ...$this->tags];
        foreach ($maps as $map) {
            array_push($found, ...$map->findings());
            array_push($words, $map->name(), $map->role->value, $map->role->label(), $map->encoding->value, $map->image->file, $map->image->width . 'x' . $map->image->height, $map->image->deep ? '16 bit' : '8 bit', $map->inverted ? 'smoothness' : '');
        }
        foreach ($found as $finding) {
            array_push($words, $finding->code, $finding->text);
        }
        $this->words = mb_strcut(mb_strtolower(implode("\n", array_unique($words))), 0, 65000);
        $this->held = \count($maps);
        $this->faulty = $found !== [];
    }

    /** Its maps are now what the document of a recipe made. */
    public function cookedFrom(RecipeRecord $recipe, string $document): void
    {
        $this->recipe = $recipe;
        $this->cooked = hash('sha256', $document);
    }

    /** Whether its maps are what its recipe makes now. */
    public function isCurrent(): bool
    {
        return $this->recipe !== null && $this->maps() !== [] && $this->cooked === hash('sha256', $this->recipe->document);
    }

    /** @return list<MapRecord> */
    public function maps(): array
    {
        return array_values(array_filter($this->all->toArray(), static fn (MapRecord $map): bool => $map->deletedAt === null));
    }

    public function of(Role $role): ?MapRecord
    {
        foreach ($this->maps() as $map) {
            if ($map->role === $role) {
                return $map;
            }
        }

        return null;
    }

    public function facts(): MapSet
    {
        return new MapSet($this->name, $this->extent, array_merge([], ...array_map(static fn (MapRecord $m): array => $m->readings(), $this->maps())), $this->cut === null ? null : Cut::of($this->cut));
    }

    /**
     * What does not fit together.
     *
     * @return list<array{key: ?int, missing: ?Role, finding: Finding}> the key is a map's id
     */
    public function findings(): array
    {
        $maps = $this->maps();

        return $this->check(array_combine(array_map(static fn (MapRecord $map): int => $map->id(), $maps), $maps));
    }

    /**
     * @param array<int, MapRecord> $maps
     *
     * @return list<array{key: ?int, missing: ?Role, finding: Finding}>
     */
    private function check(array $maps): array
    {
        return SetCheck::of(array_map(static fn (MapRecord $map): array => [
            'role' => $map->role, 'file' => $map->image->file, 'width' => $map->image->width, 'height' => $map->image->height,
            'inverted' => $map->inverted, 'measures' => $map->image->measures(),
        ], $maps), array_map(Role::from(...), array_keys($this->facts()->readings)));
    }
}
