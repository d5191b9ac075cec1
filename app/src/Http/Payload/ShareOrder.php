<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\App\Entity\Role;
use Symfony\Component\Validator\Constraints as Assert;

/** A link for guests. */
final readonly class ShareOrder
{
    public function __construct(
        #[Assert\Length(min: 1, max: 120, normalizer: 'trim')]
        public string $name,
        #[Assert\Choice([Role::Viewer, Role::Reviewer])]
        public Role $role,
        #[Assert\Range(min: 1, max: 366)]
        #[Assert\DivisibleBy(1)]
        public float $days = 14,
        #[Assert\Positive]
        #[Assert\DivisibleBy(1)]
        public ?float $material = null,
    ) {
    }
}
