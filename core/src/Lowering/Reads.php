<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Material\Role;

/** Which maps a tap is for, where some take sizes of their own. */
enum Reads: int
{
    case Colour = 1;
    /** Roughness, occlusion and heights. */
    case Matt = 2;
    case AllButNormals = 3;
    case Normals = 4;
    case Relief = 6;
    case All = 7;

    public function includes(Role $role): bool
    {
        $kind = match ($role) {
            Role::Normal => self::Normals,
            Role::Roughness, Role::Occlusion, Role::Height => self::Matt,
            default => self::Colour,
        };

        return ($this->value & $kind->value) !== 0;
    }

    /** Those that both are for; null for none. */
    public function and(self $other): ?self
    {
        return self::tryFrom($this->value & $other->value);
    }
}
