<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Material\Role;

/** Which maps a tap is for, where colour and relief take sizes of their own. */
enum Reads: string
{
    case All = 'all';
    case Colour = 'colour';
    case Relief = 'relief';

    public function includes(Role $role): bool
    {
        $relief = match ($role) {
            Role::Normal, Role::Roughness, Role::Occlusion, Role::Height => true,
            default => false,
        };

        return match ($this) {
            self::All => true,
            self::Colour => !$relief,
            self::Relief => $relief,
        };
    }
}
