<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Role;
use Symfony\Component\Validator\Constraints as Assert;

/** Which channels of a packed map hold a role. */
final readonly class PackedChannel
{
    public function __construct(
        public Role $role,
        #[Assert\Choice(['x', 'y', 'z', 'w', 'xy', 'zw', 'xyz'])]
        public string $channels,
        public bool $inverted,
    ) {
    }
}
