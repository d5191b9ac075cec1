<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\Common\Collections\ArrayCollection;
use Doctrine\Common\Collections\Collection;
use Doctrine\ORM\Mapping as ORM;
use Rilta\Core\Check\Finding;
use Rilta\Core\Check\MapCheck;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\Role;

/**
 * One image with a role, in its current version.
 *
 * @phpstan-import-type PackedChannelJson from MapReading
 */
#[ORM\Entity]
#[ORM\Table(name: 'map')]
#[ORM\UniqueConstraint(columns: ['set_id', 'slot'])]
class MapRecord
{
    use Identified;

    /** whether it says the opposite of its role: smoothness for roughness */
    #[ORM\Column]
    public bool $inverted = false;

    /** @var list<PackedChannelJson> of a packed map: what is read from which channels */
    #[ORM\Column(type: 'json')]
    public array $channels = [];

    /** @var array<string, mixed> how it is sampled; as usual where nothing is said */
    #[ORM\Column(type: 'json')]
    public array $sampling = [];

    #[ORM\Column]
    public int $number = 1;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $deletedAt = null;

    /** its place in the set, which no other map has; null while it is taken out */
    #[ORM\Column(length: 60, nullable: true)]
    public ?string $slot = null;

    /** whether what is derived from it has been made for what it is now; it is made when it is asked for in any case */
    #[ORM\Column]
    public bool $derived = false;

    /** how often a worker has begun with what is derived from it as it is now */
    #[ORM\Column]
    public int $attempts = 0;

    /** why workers gave it up */
    #[ORM\Column(length: 1000)]
    public string $failure = '';

    /** @var Collection<int, MapVersion> those before the current one */
    #[ORM\OneToMany(targetEntity: MapVersion::class, mappedBy: 'map', cascade: ['persist'])]
    #[ORM\OrderBy(['number' => 'ASC'])]
    public Collection $versions;

    public function __construct(
        #[ORM\ManyToOne(inversedBy: 'all')]
        #[ORM\JoinColumn(nullable: false)]
        public readonly MapSetRecord $set,
        #[ORM\Column(length: 20)]
        public Role $role,
        #[ORM\Column(length: 10)]
        public Encoding $encoding,
        #[ORM\Embedded(columnPrefix: false)]
        public MapImage $image,
        /** what a packed map is called in its set; others are called by their role */
        #[ORM\Column(length: 40)]
        public readonly string $title = '',
    ) {
        $this->versions = new ArrayCollection();
        $this->slot = $this->place();
        $set->all->add($this);
    }

    /** Another image takes the place of the current one, which is kept. */
    public function renew(MapImage $image): void
    {
        $this->versions->add(new MapVersion($this, $this->number, $this->image));
        $this->image = $image;
        $this->underive();
        ++$this->number;
        $this->set->reindex();
    }

    /** What is derived from it is of what it was. */
    public function underive(): void
    {
        $this->derived = false;
        $this->attempts = 0;
        $this->failure = '';
    }

    /** Out of the library, or back into it. */
    public function takeOut(bool $out): void
    {
        $this->deletedAt = $out ? new \DateTimeImmutable() : null;
        $this->slot = $out ? null : $this->place();
        $this->set->reindex();
    }

    /** As another role. */
    public function reassign(Role $role): void
    {
        $this->role = $role;
        $this->slot = $this->deletedAt === null ? $this->place() : null;
    }

    public function name(): string
    {
        return $this->set->name . '/' . $this->place();
    }

    private function place(): string
    {
        return $this->title === '' ? $this->role->value : $this->title;
    }

    /** @return list<Finding> what is wrong with the map in its role */
    public function findings(): array
    {
        return MapCheck::of($this->role, $this->encoding, $this->image->edgeSeam, $this->image->measures(), $this->image->deep);
    }

    public function facts(): MapFacts
    {
        return new MapFacts($this->name(), $this->role, $this->encoding, $this->image->width, $this->image->height, $this->image->deep, $this->inverted, Sampling::of($this->sampling), $this->role === Role::Mask && ($this->image->measures()->coloured ?? 0.0) > 0.0);
    }

    /** @return list<MapReading> the roles that can be read from it */
    public function readings(): array
    {
        $facts = $this->facts();
        $readings = [];
        foreach ($this->channels as $one) {
            $role = Role::tryFrom($one['role']);
            if ($role !== null && MapReading::objection($role, $one['channels'], $one['inverted']) === null) {
                $readings[] = new MapReading($facts, $role, $one['channels'], $one['inverted']);
            }
        }

        return [...$readings, MapReading::whole($facts)];
    }
}
