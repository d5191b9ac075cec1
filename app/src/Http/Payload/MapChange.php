<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Field\Sampling;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Role;
use Symfony\Component\Validator\Constraints as Assert;

/** How a map is read from now on. */
final readonly class MapChange
{
    /**
     * @param array<string, mixed>|null $sampling
     * @param list<PackedChannel>|null  $channels
     * @param ?float                    $extent   metres that one repeat covers
     */
    public function __construct(
        public ?Role $role = null,
        public ?Encoding $encoding = null,
        public ?bool $inverted = null,
        #[Of('Sampling', Sampling::class, partial: true)]
        public ?array $sampling = null,
        #[Assert\Type('list')]
        #[Assert\Count(max: 4)]
        #[Assert\Valid]
        public ?array $channels = null,
        #[Assert\Range(min: 0.001, max: 10000)]
        public ?float $extent = null,
    ) {
    }
}
