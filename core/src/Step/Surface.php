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
 * that of the eye, in metres.
 */
final readonly class Surface
{
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
        'section' => Type::Float,
        'objectOrigin' => Type::Vec3,
        'objectX' => Type::Vec3,
        'objectY' => Type::Vec3,
        'objectZ' => Type::Vec3,
        'objectSeed' => Type::Float,
        'objectValue' => Type::Float,
        'viewDistance' => Type::Float,
    ];

    public function __construct(private Graph $graph)
    {
    }

    /** Any input by its name. */
    public function input(string $name): Node
    {
        return $this->graph->input($name, self::INPUTS[$name] ?? throw new \LogicException("No input $name."));
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
