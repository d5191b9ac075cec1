<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\Role;

/** Whether map sets can lie in arrays, one for each role: everywhere the same roles, sizes and formats. */
final class Alignment
{
    /**
     * What does not fit, against what most of the sets have; the first of equals.
     *
     * @param list<MapSet> $sets
     *
     * @return list<array{set: string, role: Role, text: string, kind: 'missing'|'size'|'form'}>
     */
    public static function misfits(array $sets): array
    {
        $roles = [];
        foreach ($sets as $set) {
            foreach ($set->readings as $role => $reading) {
                $roles[$role][$set->name] = $reading;
            }
        }
        $misfits = [];
        foreach ($roles as $name => $readings) {
            $role = Role::from($name);
            $sizes = array_map(static fn ($r): string => $r->map->width . ' x ' . $r->map->height, $readings);
            $forms = array_map(static fn ($r): string => self::form($r->map->deep, $r->channels, $r->inverted), $readings);
            foreach ($sets as $set) {
                $reading = $readings[$set->name] ?? null;
                if ($reading === null) {
                    $misfits[] = ['set' => $set->name, 'role' => $role, 'text' => \sprintf('%s has no %s; %d of %d have', $set->name, lcfirst($role->label()), \count($readings), \count($sets)), 'kind' => 'missing'];
                } elseif ($sizes[$set->name] !== self::usual($sizes)) {
                    $misfits[] = ['set' => $set->name, 'role' => $role, 'text' => \sprintf('%s has %s pixels, the others %s', $reading->map->name, $sizes[$set->name], self::usual($sizes)), 'kind' => 'size'];
                } elseif ($forms[$set->name] !== self::usual($forms)) {
                    $misfits[] = ['set' => $set->name, 'role' => $role, 'text' => \sprintf('%s has %s, the others %s', $reading->map->name, $forms[$set->name], self::usual($forms)), 'kind' => 'form'];
                }
            }
        }

        return $misfits;
    }

    /**
     * The size that most sets have in a role.
     *
     * @param list<MapSet> $sets
     *
     * @return array{int, int}|null null if none has the role
     */
    public static function size(array $sets, Role $role): ?array
    {
        $sizes = [];
        foreach ($sets as $set) {
            $map = $set->map($role)?->map;
            if ($map !== null) {
                $sizes[] = "$map->width $map->height";
            }
        }
        if ($sizes === []) {
            return null;
        }
        [$width, $height] = array_map(intval(...), explode(' ', self::usual($sizes)));

        return [$width, $height ?? 0];
    }

    private static function form(bool $deep, string $channels, bool $inverted): string
    {
        return ($deep ? '16 bits' : '8 bits') . ($channels === '' ? '' : ', packed in ' . strtr($channels, 'xyzw', 'RGBA')) . ($inverted ? ', inverted' : '');
    }

    /** @param non-empty-array<array-key, string> $values */
    private static function usual(array $values): string
    {
        $counts = array_count_values($values);
        arsort($counts);

        return (string) array_key_first($counts);
    }
}
