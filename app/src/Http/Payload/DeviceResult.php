<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** What was found out about a device, by the page that ran on it. */
final readonly class DeviceResult
{
    public function __construct(
        #[Assert\Length(min: 1, max: 200)]
        public string $device,
        #[Assert\Length(min: 1, max: 300)]
        public string $browser,
        #[Assert\Range(min: 1, max: 100_000)]
        #[Assert\DivisibleBy(1)]
        public float $materials,
        #[Assert\Range(min: 1, max: 1_000_000_000)]
        #[Assert\DivisibleBy(1)]
        public float $samples,
        #[Assert\Range(min: 0, max: 1_000_000_000)]
        #[Assert\DivisibleBy(1)]
        public float $off,
        #[Assert\Range(min: 0, max: 1_000_000_000)]
        #[Assert\DivisibleBy(1)]
        public float $far,
        #[Assert\Range(min: 0, max: 1_000_000)]
        public float $worst,
    ) {
    }
}
