<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\App\Entity\Role;

/** What somebody is to be in a project. */
final readonly class RoleChange
{
    public function __construct(public Role $role)
    {
    }
}
