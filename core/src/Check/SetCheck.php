<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

use Rilta\Core\Material\Role;

/** Looks for what does not fit together among the maps of a set. */
final class SetCheck
{
    /** Roles without which a surface looks wrong. */
    private const WANTED = [Role::BaseColour, Role::Normal, Role::Roughness];
    /** Roughness that varies so much like light that gets in is rather smoothness. */
    private const ALIKE = 0.5;

    /**
     * @param array<int, array{role: Role, file: string, width: int, height: int, inverted: bool, measures: ?Measures}> $maps  by a number of one's own
     * @param list<Role>                                                                                                $roles that its maps can be read for
     *
     * @return list<array{key: ?int, missing: ?Role, finding: Finding}> the key of the map that is meant, or the role that is missing
     */
    public static function of(array $maps, array $roles): array
    {
        $found = [];
        foreach (self::WANTED as $role) {
            if (!\in_array($role, $roles, true)) {
                $found[] = ['key' => null, 'missing' => $role, 'finding' => new Finding('missing', false, \sprintf('There is no %s: %s', lcfirst($role->label()), match ($role) {
                    Role::BaseColour => 'it is taken as middle grey.',
                    Role::Normal => 'light sees a flat surface.',
                    default => 'it is taken as 0.5 everywhere.',
                }))];
            }
        }
        $size = self::size($maps);
        foreach ($maps as $key => $map) {
            if ([$map['width'], $map['height']] !== $size) {
                $found[] = ['key' => $key, 'missing' => null, 'finding' => new Finding('size', true, \sprintf('%s has %d x %d pixels; the set has %d x %d.', $map['file'], $map['width'], $map['height'], ...$size), fixes: [Fix::Resample])];
            }
        }

        return [...$found, ...self::smoothness($maps)];
    }

    /**
     * The size of a set: that of its base colour, else that of most of its maps, the larger of two.
     *
     * @param array<int, array{role: Role, width: int, height: int, ...}> $maps
     *
     * @return array{int, int}
     */
    public static function size(array $maps): array
    {
        $votes = [];
        $sizes = [];
        foreach ($maps as $map) {
            $key = $map['width'] . 'x' . $map['height'];
            $sizes[$key] = [$map['width'], $map['height']];
            $votes[$key] = ($votes[$key] ?? 0) + ($map['role'] === Role::BaseColour ? 100 : 1) + $map['width'] / 1e6;
        }
        arsort($votes);

        return $sizes[array_key_first($votes) ?? ''] ?? [0, 0];
    }

    /**
     * Where dust and dirt lie, in what is dark and deep, surfaces are rougher. A map that says the opposite may hold smoothness.
     *
     * @param array<int, array{role: Role, file: string, inverted: bool, measures: ?Measures, ...}> $maps
     *
     * @return list<array{key: ?int, missing: ?Role, finding: Finding}>
     */
    private static function smoothness(array $maps): array
    {
        $found = [];
        foreach ($maps as $key => $map) {
            if ($map['role'] !== Role::Roughness || $map['measures'] === null) {
                continue;
            }
            $likes = [];
            foreach ($maps as $other) {
                if (\in_array($other['role'], [Role::Occlusion, Role::Height], true) && $other['measures'] !== null) {
                    $likes[$other['role']->value] = $map['measures']->likeness($other['measures']) * ($map['inverted'] ? -1 : 1);
                }
            }
            // Where both are there, both have to say so.
            if ($likes !== [] && min($likes) > self::ALIKE) {
                $with = implode(' and the ', array_keys($likes));
                $found[] = ['key' => $key, 'missing' => null, 'finding' => new Finding('smoothness', false, \sprintf('It says that hollows are smoother than what stands out (it varies with the %s, %.2f): it may hold smoothness.', $with, min($likes)), fixes: [Fix::Invert])];
            }
        }

        return $found;
    }
}
