<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Rilta\Core\Math\Vec;

/** An object on a stage: a mesh, scaled, then turned about x, y and z (R = Rx Ry Rz), then moved. */
final readonly class Placed
{
    /** @var array{array{float, float, float}, array{float, float, float}, array{float, float, float}} unit axes of the object, in the world */
    public array $axes;

    /**
     * @param string                     $mesh     what the stage's meshes are asked for
     * @param array{float, float, float} $position metres
     * @param array{float, float, float} $turn     degrees
     * @param array{float, float, float} $scale    factors above 0
     * @param int                        $seed     below 2^24; tells objects apart where something is random
     * @param float                      $value    0…1, what a material may be driven by, object by object
     * @param string                     $variant  id of the one that it wears, if its material has it; "" for the one that is shown
     * @param bool                       $hidden   whether it is left out of all pictures for now
     * @param ?int                       $wears    number of the material that it wears; null for the one that is shown
     * @param array<string, Wear>        $sections what sections of its mesh wear by themselves, by their names
     * @param string                     $paint    what the stage's paints are asked for; "" if nothing was painted on it
     */
    public function __construct(
        public string $id,
        public string $name,
        public string $mesh,
        public array $position,
        public array $turn,
        public array $scale,
        public int $seed = 1,
        public float $value = 0.0,
        public string $variant = '',
        public bool $hidden = false,
        public ?int $wears = null,
        public array $sections = [],
        public string $paint = '',
    ) {
        [$a, $b, $c] = array_map(deg2rad(...), $turn);
        [$sa, $ca, $sb, $cb, $sc, $cc] = [sin($a), cos($a), sin($b), cos($b), sin($c), cos($c)];
        $this->axes = [
            [$cb * $cc, $ca * $sc + $sa * $sb * $cc, $sa * $sc - $ca * $sb * $cc],
            [-$cb * $sc, $ca * $cc - $sa * $sb * $sc, $sa * $cc + $ca * $sb * $sc],
            [$sb, -$sa * $cb, $ca * $cb],
        ];
    }

    /** @return array{float, float, float, float} its turn as a unit quaternion: x, y, z, w */
    public function quaternion(): array
    {
        [$a, $b, $c] = array_map(static fn (float $degrees): float => deg2rad($degrees) / 2, $this->turn);
        [$sa, $ca, $sb, $cb, $sc, $cc] = [sin($a), cos($a), sin($b), cos($b), sin($c), cos($c)];

        return [$sa * $cb * $cc + $ca * $sb * $sc, $ca * $sb * $cc - $sa * $cb * $sc, $ca * $cb * $sc + $sa * $sb * $cc, $ca * $cb * $cc - $sa * $sb * $sc];
    }

    /** What a section of it wears. */
    public function worn(string $section): Wear
    {
        return $this->sections[$section] ?? new Wear($this->wears, $this->variant);
    }

    /**
     * A point of the mesh, in the world.
     *
     * @param array{float, float, float} $p
     *
     * @return array{float, float, float}
     */
    public function point(array $p): array
    {
        return Vec::add($this->position, $this->direction($p));
    }

    /**
     * A direction along the mesh, in the world; scaled as the mesh is.
     *
     * @param array{float, float, float} $d
     *
     * @return array{float, float, float}
     */
    public function direction(array $d): array
    {
        [$s, $axes] = [$this->scale, $this->axes];

        return Vec::blend($axes[0], $axes[1], $axes[2], [$d[0] * $s[0], $d[1] * $s[1], $d[2] * $s[2]]);
    }

    /**
     * A place or direction of the world as it is along the mesh.
     *
     * @param array{float, float, float} $v
     *
     * @return array{float, float, float}
     */
    private function inverse(array $v): array
    {
        [$s, $axes] = [$this->scale, $this->axes];

        return [Vec::dot($v, $axes[0]) / $s[0], Vec::dot($v, $axes[1]) / $s[1], Vec::dot($v, $axes[2]) / $s[2]];
    }

    /**
     * A ray of the world along the mesh: as many of its lengths lead to the same place.
     *
     * @param array{float, float, float} $from
     * @param array{float, float, float} $along
     *
     * @return array{array{float, float, float}, array{float, float, float}}
     */
    public function ray(array $from, array $along): array
    {
        return [$this->inverse(Vec::sub($from, $this->position)), $this->inverse($along)];
    }

    /**
     * A normal of the mesh, in the world, of length 1.
     *
     * @param array{float, float, float} $n
     *
     * @return array{float, float, float}
     */
    public function normal(array $n): array
    {
        return Vec::unit($this->normalAsScaled($n));
    }

    /**
     * A normal of the mesh, in the world, of the length that the scale gives it.
     *
     * @param array{float, float, float} $n
     *
     * @return array{float, float, float}
     */
    public function normalAsScaled(array $n): array
    {
        [$s, $axes] = [$this->scale, $this->axes];

        return Vec::blend($axes[0], $axes[1], $axes[2], [$n[0] / $s[0], $n[1] / $s[1], $n[2] / $s[2]]);
    }
}
