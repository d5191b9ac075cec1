<?php

declare(strict_types=1);

namespace Rilta\Core\Probe;

use Rilta\Core\Math\Vec;
use Rilta\Core\Surface\Surface;

/**
 * A surface point with all that a lane may ask of it, as Surface\Surface names it. Vectors are lists of numbers in
 * metres or UV units; derivatives are per pixel.
 */
final readonly class SurfaceSample
{
    /** @var array<string, list<float>> all inputs of a surface */
    public array $inputs;

    /** @param array<string, list<float>> $inputs those that are known */
    public function __construct(array $inputs)
    {
        $this->inputs = $inputs + Surface::nothing();
    }

    /**
     * A point of which only place and normal are known: derivatives lie in its tangent plane, a given number of
     * metres a pixel; mesh coordinates are what is given.
     *
     * @param array{float, float, float} $position
     * @param array{float, float, float} $normal   any length but 0
     * @param array{float, float}        $uv
     * @param float                      $pixel    metres
     */
    public static function at(array $position, array $normal, array $uv = [0.0, 0.0], float $pixel = 0.001): self
    {
        if (Vec::length($normal) < 1e-9) {
            throw new \InvalidArgumentException('A normal cannot be 0, 0, 0.');
        }
        $n = Vec::unit($normal);
        // Right and down as someone sees them who looks straight at the surface.
        $up = abs($n[1]) < 0.999 ? [0.0, 1.0, 0.0] : [0.0, 0.0, -1.0];
        $right = Vec::unit(Vec::cross($up, $n));
        $down = Vec::cross($right, $n);

        return new self([
            'position' => $position,
            'normal' => $n,
            'dpdx' => Vec::scale($right, $pixel),
            'dpdy' => Vec::scale($down, $pixel),
            ...Surface::sets($uv, [$pixel, 0.0], [0.0, $pixel], $right, $down),
        ]);
    }
}
