<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;

/**
 * Makes UVs by projection, in metres or filling 0…1 with the ratio of width to height kept: flat, seen from a direction; onto the six sides of a
 * box; or around an upright cylinder through the middle of what is projected. U runs to the right and v down, as seen from outside.
 */
final readonly class ProjectUvs implements MeshEdit
{
    /**
     * @param int                        $set  0 for the first
     * @param string                     $how  flat, box or cylinder
     * @param array{float, float, float} $from the direction that a flat projection is seen from, unit
     * @param bool                       $fill whether 0…1 is filled
     */
    public function __construct(public int $set, public string $how, public Faces $faces, public array $from = [0.0, 0.0, 1.0], public bool $fill = false)
    {
    }

    public function of(Mesh $mesh): Mesh
    {
        $chosen = $this->faces->of($mesh);
        $uvs = UvSet::of($mesh, $this->set);
        $points = $mesh->positions->triples();
        $corners = Weld::corners($mesh);
        $normals = $this->how === 'box' ? Faces::normals($mesh) : [];
        $middle = $this->how === 'cylinder' ? self::middle($points, $corners, $chosen) : [0.0, 0.0, 0.0, 1.0];
        foreach ($chosen as $t => $in) {
            if (!$in) {
                continue;
            }
            $three = [$points[$corners[3 * $t]], $points[$corners[3 * $t + 1]], $points[$corners[3 * $t + 2]]];
            $found = match ($this->how) {
                'box' => self::flat($three, self::side($normals[$t])),
                'cylinder' => self::around($three, $middle),
                default => self::flat($three, $this->from),
            };
            foreach ($found as $k => $number) {
                $uvs[6 * $t + $k] = $number;
            }
        }

        /** @var list<float> $uvs */
        return UvSet::put($mesh, $this->set, $this->fill ? UvSet::filled($uvs, $chosen, true) : $uvs);
    }

    /**
     * Places in the plane across a direction, metres.
     *
     * @param list<array{float, float, float}> $points
     * @param array{float, float, float}       $from
     *
     * @return list<float>
     */
    public static function flat(array $points, array $from): array
    {
        [$right, $down] = self::plane($from);

        return array_merge(...array_map(static fn (array $p): array => [Vec::dot($p, $right), Vec::dot($p, $down)], $points));
    }

    /**
     * The directions to the right and down for whoever looks against a direction with their head up.
     *
     * @param array{float, float, float} $from unit
     *
     * @return array{array{float, float, float}, array{float, float, float}}
     */
    public static function plane(array $from): array
    {
        // Looked at from above or below, right is +x.
        $right = abs($from[1]) > 0.999 ? [1.0, 0.0, 0.0] : Vec::unit(Vec::cross([0.0, 1.0, 0.0], $from));

        return [$right, Vec::cross($right, $from)];
    }

    /**
     * @param array{float, float, float} $normal
     *
     * @return array{float, float, float}
     */
    private static function side(array $normal): array
    {
        $most = max(array_map(abs(...), $normal));
        foreach ([1, 0, 2] as $axis) {
            // What lies between two sides goes to the first of y, x, z.
            if (abs($normal[$axis]) >= $most - 1e-6) {
                $way = $normal[$axis] < 0 ? -1.0 : 1.0;

                return [$axis === 0 ? $way : 0.0, $axis === 1 ? $way : 0.0, $axis === 2 ? $way : 0.0];
            }
        }

        return [0.0, 1.0, 0.0];
    }

    /**
     * @param list<array{float, float, float}> $points
     * @param list<int>                        $corners
     * @param list<bool>                       $chosen
     *
     * @return array{float, float, float, float} the axis' x and z, 0, and the mean distance from it, metres
     */
    private static function middle(array $points, array $corners, array $chosen): array
    {
        $all = [];
        foreach ($chosen as $t => $in) {
            if ($in) {
                array_push($all, $corners[3 * $t], $corners[3 * $t + 1], $corners[3 * $t + 2]);
            }
        }
        $all = array_unique($all);
        if ($all === []) {
            return [0.0, 0.0, 0.0, 1.0];
        }
        $xs = array_map(static fn (int $v): float => $points[$v][0], $all);
        $zs = array_map(static fn (int $v): float => $points[$v][2], $all);
        [$x, $z] = [(min($xs) + max($xs)) / 2, (min($zs) + max($zs)) / 2];
        $radius = array_sum(array_map(static fn (int $v): float => hypot($points[$v][0] - $x, $points[$v][2] - $z), $all)) / \count($all);

        return [$x, $z, 0.0, max(1e-6, $radius)];
    }

    /**
     * @param list<array{float, float, float}>  $three
     * @param array{float, float, float, float} $middle
     *
     * @return list<float>
     */
    private static function around(array $three, array $middle): array
    {
        [$x, $z, , $radius] = $middle;
        // The seam lies behind, and a triangle lies on one side of it.
        $turns = array_map(static fn (array $p): ?float => hypot($p[0] - $x, $p[2] - $z) < 1e-9 ? null : atan2($p[0] - $x, $p[2] - $z), $three);
        $known = array_filter($turns, static fn (?float $turn): bool => $turn !== null);
        $mean = $known === [] ? 0.0 : atan2(array_sum(array_map(sin(...), $known)), array_sum(array_map(cos(...), $known)));
        $found = [];
        foreach ($turns as $k => $turn) {
            // On the axis there is no angle but that of the others.
            $turn ??= $mean;
            array_push($found, $radius * ($turn - 2 * \M_PI * round(($turn - $mean) / (2 * \M_PI)) + \M_PI), -$three[$k][1]);
        }

        return $found;
    }
}
