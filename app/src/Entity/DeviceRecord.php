<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** How near a device comes to what the core computes, as it was found out there. */
#[ORM\Entity]
#[ORM\Table(name: 'device')]
#[ORM\UniqueConstraint(columns: ['project_id', 'name_hash'])]
class DeviceRecord
{
    use Identified;

    /** Of the device and the browser: one row each. */
    #[ORM\Column(length: 32)]
    public readonly string $nameHash;

    #[ORM\Column]
    public \DateTimeImmutable $checkedAt;

    #[ORM\Column]
    public int $materials = 0;

    /** Values that were compared, those off by more than 1/255, and those further off than rounding explains. */
    #[ORM\Column]
    public int $samples = 0;

    #[ORM\Column(name: 'apart')]
    public int $off = 0;

    #[ORM\Column]
    public int $far = 0;

    /** The largest difference that rounding does not explain, in times of what is allowed. */
    #[ORM\Column]
    public float $worst = 0.0;

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly Project $project,
        #[ORM\Column(length: 200)]
        public readonly string $device,
        #[ORM\Column(length: 300)]
        public readonly string $browser,
    ) {
        $this->nameHash = self::hash($device, $browser);
        $this->checkedAt = new \DateTimeImmutable();
    }

    public static function hash(string $device, string $browser): string
    {
        return hash('xxh128', "$device\n$browser");
    }
}
