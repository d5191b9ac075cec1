<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\App\Entity\Role;
use Symfony\Component\Validator\Constraints as Assert;

/** Somebody who is to work in a project. */
final readonly class Invitation
{
    public function __construct(
        #[Assert\Email]
        #[Assert\Length(min: 3, max: 190)]
        public string $email,
        public Role $role,
        #[Assert\Length(max: 120)]
        public string $name = '',
    ) {
    }
}
