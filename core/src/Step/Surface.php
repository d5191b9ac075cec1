<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;

/**
 * The surface point that a lane starts from, as inputs of the graph. Positions are in metres, in the world.
 * The object's frame is rigid: it follows an object's place and turn, and keeps metres however it is scaled. The object's seed is
 * a whole number below 2^24, its value 0…1; the section is the whole number of the part of the mesh, below 2^16; the view distance is
 * that of the eye, in metres. A surface that is seen from behind has the facing -1, and its normal looks to whoever sees it; all others
 * have 1.
 */
final readonly class Surface
{
    /** The sets of UVs of a mesh, in their order; each has its steps per pixel (Dx, Dy) and its directions (T, B). */
    public const UV_SETS = ['uv', 'uv2', 'uv3', 'uv4'];

    /** @var array<string, Type> every input by name: what a target has to supply */
    public const INPUTS = [
        'position' => Type::Vec3,
        'normal' => Type::Vec3,
        'dpdx' => Type::Vec3,
        'dpdy' => Type::Vec3,
        'uv' => Type::Vec2,
        'uvDx' => Type::Vec2,
        'uvDy' => Type::Vec2,
        'uvT' => Type::Vec3,
        'uvB' => Type::Vec3,
        'uv2' => Type::Vec2,
        'uv2Dx' => Type::Vec2,
        'uv2Dy' => Type::Vec2,
        'uv2T' => Type::Vec3,
        'uv2B' => Type::Vec3,
        'uv3' => Type::Vec2,
        'uv3Dx' => Type::Vec2,
        'uv3Dy' => Type::Vec2,
        'uv3T' => Type::Vec3,
        'uv3B' => Type::Vec3,
        'uv4' => Type::Vec2,
        'uv4Dx' => Type::Vec2,
        'uv4Dy' => Type::Vec2,
        'uv4T' => Type::Vec3,
        'uv4B' => Type::Vec3,
        'section' => Type::Float,
        'objectOrigin' => Type::Vec3,
        'objectX' => Type::Vec3,
        'objectY' => Type::Vec3,
        'objectZ' => Type::Vec3,
        'objectSeed' => Type::Float,
        'objectValue' => Type::Float,
        'viewDistance' => Type::Float,
        'facing' => Type::Float,
    ];

    public function __construct(private Graph $graph)
    {
    }

    /** Any input by its name. */
    public function input(string $name): Node
    {
        return $this->graph->input($name, self::INPUTS[$name] ?? throw new \LogicException("No input $name."));
    }

    /**
     * The same inputs for every set of UVs, for a surface that has only one.
     *
     * @template V
     *
     * @param V $uv
     * @param V $dx a pixel to the right
     * @param V $dy a pixel down
     * @param V $t  the direction of u
     * @param V $b  the direction of v
     *
     * @return array<string, V>
     */
    public static function uvInputs(mixed $uv, mixed $dx, mixed $dy, mixed $t, mixed $b): array
    {
        $inputs = [];
        foreach (self::UV_SETS as $set) {
            $inputs += [$set => $uv, "{$set}Dx" => $dx, "{$set}Dy" => $dy, "{$set}T" => $t, "{$set}B" => $b];
        }

        return $inputs;
    }

    public function position(): Node
    {
        return $this->input('position');
    }

    /** The unit normal of the mesh, before any map. */
    public function normal(): Node
    {
        return $this->input('normal');
    }

    /**
     * The frame of the object: its origin and its three unit axes, in the world.
     *
     * @return array{Node, array{Node, Node, Node}}
     */
    public function objectFrame(): array
    {
        return [$this->input('objectOrigin'), [$this->input('objectX'), $this->input('objectY'), $this->input('objectZ')]];
    }
}
