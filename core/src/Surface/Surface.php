<?php

declare(strict_types=1);

namespace Rilta\Core\Surface;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;

/**
 * The surface point that a lane starts from, as inputs of the graph: the one place where they are declared. What is printed, the vertex
 * stage and its attributes, the kernels' points, the probe and the tiles follow from it.
 *
 * Positions are in metres, in the world. The object's frame is rigid: it follows an object's place and turn, and keeps metres however it
 * is scaled. The object's seed is a whole number below 2^24, its value 0…1; the section is the whole number of the part of the mesh,
 * below 2^16; what was painted is four channels of 0…1; the view distance is that of the eye. A surface that is seen from behind has the facing -1; all others have 1.
 */
final readonly class Surface
{
    /** The sets of UVs of a mesh, in their order; each has its steps per pixel (Dx, Dy) and its directions (T, B). */
    public const UV_SETS = ['uv', 'uv2', 'uv3', 'uv4'];

    /** The attribute that has what was painted on an object: four channels of 0…1. */
    public const PAINT = '_PAINT';

    public function __construct(private Graph $graph)
    {
    }

    /** @return array<string, SurfaceInput> all of them, by name */
    public static function inputs(): array
    {
        /** @var array<string, SurfaceInput>|null $all */
        static $all = null;

        return $all ??= array_column(self::declared(), null, 'name');
    }

    /** @return array<string, Type> by name */
    public static function types(): array
    {
        return array_column(self::inputs(), 'type', 'name');
    }

    /** @return list<SurfaceInput> */
    private static function declared(): array
    {
        $one = static fn (string $name, Type $type, Source $source, string $of = '', string $unit = '', float ...$none): SurfaceInput => new SurfaceInput($name, $type, $source, $of, $unit, $none === [] ? array_fill(0, $type->width(), 0.0) : array_values($none));
        $sets = [];
        foreach (self::UV_SETS as $i => $set) {
            array_push(
                $sets,
                $one($set, Type::Vec2, Source::Vertex, "TEXCOORD_$i"),
                $one("{$set}Dx", Type::Vec2, Source::Right, $set),
                $one("{$set}Dy", Type::Vec2, Source::Down, $set),
                $one("{$set}T", Type::Vec3, Source::Direction, "_TEXCOORD_{$i}_U"),
                $one("{$set}B", Type::Vec3, Source::Direction, "_TEXCOORD_{$i}_V"),
            );
        }

        return [
            $one('position', Type::Vec3, Source::Position, unit: 'm'),
            $one('normal', Type::Vec3, Source::Normal, '', '', 0.0, 1.0, 0.0),
            $one('dpdx', Type::Vec3, Source::Right, 'position', 'm'),
            $one('dpdy', Type::Vec3, Source::Down, 'position', 'm'),
            ...$sets,
            $one('section', Type::Float, Source::Flat, '_SECTION'),
            $one('painted', Type::Vec4, Source::Vertex, self::PAINT),
            $one('objectOrigin', Type::Vec3, Source::Origin, unit: 'm'),
            $one('objectX', Type::Vec3, Source::Axis, 'x', '', 1.0, 0.0, 0.0),
            $one('objectY', Type::Vec3, Source::Axis, 'y', '', 0.0, 1.0, 0.0),
            $one('objectZ', Type::Vec3, Source::Axis, 'z', '', 0.0, 0.0, 1.0),
            $one('objectSeed', Type::Float, Source::Object, 'seed', '', 1.0),
            $one('objectValue', Type::Float, Source::Object, 'value'),
            $one('viewDistance', Type::Float, Source::Distance, '', 'm', 1.0),
            $one('facing', Type::Float, Source::Facing, '', '', 1.0),
        ];
    }

    /** Any input by its name. */
    public function input(string $name): Node
    {
        return $this->graph->input($name, (self::inputs()[$name] ?? throw new \LogicException("No input $name."))->type);
    }

    /**
     * The same for every set of UVs, for a surface that has only one.
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
    public static function sets(mixed $uv, mixed $dx, mixed $dy, mixed $t, mixed $b): array
    {
        $inputs = [];
        foreach (self::UV_SETS as $set) {
            $inputs += [$set => $uv, "{$set}Dx" => $dx, "{$set}Dy" => $dy, "{$set}T" => $t, "{$set}B" => $b];
        }

        return $inputs;
    }

    /** @return array<string, list<float>> what inputs are where nothing says them */
    public static function nothing(): array
    {
        return array_column(self::inputs(), 'none', 'name');
    }

    /**
     * Fields for all inputs: those that are given, and constants for the rest.
     *
     * @param array<string, Node> $given
     *
     * @return array<string, Node>
     */
    public static function fields(Graph $g, array $given): array
    {
        return $given + array_map(static fn (array $none): Node => \count($none) === 1 ? $g->float($none[0]) : $g->vec(...$none), self::nothing());
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
