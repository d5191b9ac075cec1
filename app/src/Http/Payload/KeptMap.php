<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Role;
use Symfony\Component\Validator\Constraints as Assert;

/** A file that was looked at, as it was confirmed. */
final readonly class KeptMap
{
    /**
     * @param float               $extent   metres that one repeat covers
     * @param list<PackedChannel> $channels
     */
    public function __construct(
        #[Assert\Length(min: 1, max: 80, normalizer: 'trim')]
        public string $set,
        public Role $role,
        public Encoding $encoding,
        #[Assert\Range(min: 0.001, max: 10000)]
        public float $extent,
        #[Assert\Length(min: 1, max: 200, normalizer: 'trim')]
        public string $file,
        #[Assert\Length(min: 1, max: 64, normalizer: 'trim')]
        public string $sha256,
        public bool $inverted = false,
        #[Assert\Type('list')]
        #[Assert\Count(max: 4)]
        #[Assert\Valid]
        public array $channels = [],
    ) {
    }
}
