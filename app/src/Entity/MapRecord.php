<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;
use Rilta\Core\Check\Finding;
use Rilta\Core\Check\MapCheck;
use Rilta\Core\Check\Measures;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\Role;

/** One image with a role. Its bytes are a file addressed by their SHA-256. */
#[ORM\Entity]
#[ORM\Table(name: 'map')]
#[ORM\UniqueConstraint(columns: ['set_id', 'role'])]
class MapRecord
{
    use Identified;

    public function __construct(
        #[ORM\ManyToOne(inversedBy: 'maps')]
        #[ORM\JoinColumn(nullable: false)]
        public readonly MapSetRecord $set,
        #[ORM\Column(length: 20)]
        public Role $role,
        #[ORM\Column(length: 10)]
        public Encoding $encoding,
        /** as it was called when it came */
        #[ORM\Column(length: 255)]
        public readonly string $file,
        #[ORM\Column(length: 64)]
        public readonly string $sha256,
        #[ORM\Column]
        public readonly int $bytes,
        #[ORM\Column]
        public readonly int $width,
        #[ORM\Column]
        public readonly int $height,
        /** mean step across the border divided by the mean step inside; near 1 is seamless */
        #[ORM\Column]
        public readonly float $edgeSeam,
        /** JSON of Check\Measures; null for maps that came before it was taken */
        #[ORM\Column(type: 'text', length: 4294967295, nullable: true)]
        public readonly ?string $measures = null,
    ) {
        $set->maps->add($this);
    }

    /** @return list<Finding> what is wrong with the map in its role */
    public function findings(): array
    {
        $data = $this->measures === null ? null : json_decode($this->measures, true);

        return MapCheck::of($this->role, $this->encoding, $this->edgeSeam, \is_array($data) ? Measures::fromArray($data) : null);
    }

    public function facts(): MapFacts
    {
        return new MapFacts($this->set->name . '/' . $this->role->value, $this->role, $this->encoding, $this->width, $this->height);
    }
}
