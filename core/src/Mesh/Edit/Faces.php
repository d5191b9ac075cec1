<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;

/** Triangles of a mesh, chosen by what they have in common. */
final readonly class Faces
{
    /**
     * @param string                     $by        all, section, island, smooth, facing or list
     * @param string                     $section   that they belong to
     * @param int                        $triangle  one of them, of an island or a smooth part
     * @param int                        $set       the UVs that make islands, 0 for the first
     * @param float                      $angle     degrees: between neighbours of a smooth part, or from the direction that they face
     * @param array{float, float, float} $facing    unit
     * @param list<int>                  $triangles that were picked one by one
     */
    private function __construct(public string $by, public string $section = '', public int $triangle = 0, public int $set = 0, public float $angle = 0.0, public array $facing = [0.0, 1.0, 0.0], public array $triangles = [])
    {
    }

    public static function all(): self
    {
        return new self('all');
    }

    public static function section(string $name): self
    {
        return new self('section', $name);
    }

    /** What hangs together in a set of UVs with one triangle. */
    public static function island(int $triangle, int $set): self
    {
        return new self('island', triangle: $triangle, set: $set);
    }

    /** What is reached from one triangle over edges at which it is bent by no more than an angle, degrees. */
    public static function smooth(int $triangle, float $angle): self
    {
        return new self('smooth', triangle: $triangle, angle: $angle);
    }

    /**
     * What faces a direction, or is turned from it by no more than an angle, degrees.
     *
     * @param array{float, float, float} $direction of any length above 0
     */
    public static function facing(array $direction, float $angle): self
    {
        return new self('facing', angle: $angle, facing: Vec::unit($direction));
    }

    /**
     * Those that were picked one by one.
     *
     * @param list<int> $triangles
     */
    public static function list(array $triangles): self
    {
        return new self('list', triangles: $triangles);
    }

    /**
     * @return list<bool> by triangle
     *
     * @throws \LengthException if what is named is not there
     */
    public function of(Mesh $mesh): array
    {
        if (($this->by === 'island' || $this->by === 'smooth') && $this->triangle >= $mesh->triangles) {
            throw new \LengthException(\sprintf('it has %d triangles, and none of the number %d', $mesh->triangles, $this->triangle));
        }

        return match ($this->by) {
            'section' => $this->inSection($mesh),
            'island' => $this->reached($mesh, Weld::uvs($mesh, $this->set), null),
            'smooth' => $this->reached($mesh, Weld::places($mesh), cos(deg2rad($this->angle)) - 1e-9),
            'facing' => array_map(fn (array $normal): bool => Vec::length($normal) > 0.5 && Vec::dot($normal, $this->facing) >= cos(deg2rad($this->angle)) - 1e-9, self::normals($mesh)),
            'list' => $this->picked($mesh),
            default => array_fill(0, $mesh->triangles, true),
        };
    }

    /** @return list<bool> */
    private function picked(Mesh $mesh): array
    {
        $found = array_fill(0, $mesh->triangles, false);
        foreach ($this->triangles as $triangle) {
            if (!isset($found[$triangle])) {
                throw new \LengthException(\sprintf('it has %d triangles, and none of the number %d', $mesh->triangles, $triangle));
            }
            $found[$triangle] = true;
        }

        /** @var list<bool> $found */
        return $found;
    }

    /** @return list<bool> */
    private function inSection(Mesh $mesh): array
    {
        $found = [];
        $there = false;
        foreach ($mesh->primitives as $part) {
            $there = $there || $part->material === $this->section;
            array_push($found, ...array_fill(0, $part->count, $part->material === $this->section));
        }

        return $there ? $found : throw new \LengthException("it has no section \"$this->section\"");
    }

    /**
     * What is reached from the triangle over edges.
     *
     * @param list<int> $places what each vertex is one with
     * @param ?float    $least  cosine between neighbours at least; null for any
     *
     * @return list<bool>
     */
    private function reached(Mesh $mesh, array $places, ?float $least): array
    {
        $corners = Weld::corners($mesh);
        $normals = $least === null ? [] : self::normals($mesh);
        $edges = [];
        foreach (Weld::edges($corners, $places) as $i => $edge) {
            $edges[$edge][] = intdiv($i, 3);
        }
        $found = array_fill(0, $mesh->triangles, false);
        $found[$this->triangle] = true;
        $stack = [$this->triangle];
        while ($stack !== []) {
            $one = array_pop($stack);
            foreach (Weld::edges(\array_slice($corners, 3 * $one, 3), $places) as $edge) {
                foreach ($edges[$edge] as $next) {
                    if (!$found[$next] && ($least === null || Vec::dot($normals[$one], $normals[$next]) >= $least)) {
                        $found[$next] = true;
                        $stack[] = $next;
                    }
                }
            }
        }

        /** @var list<bool> $found */
        return $found;
    }

    /** @return list<array{float, float, float}> of triangles, unit; nothing where they have no area */
    public static function normals(Mesh $mesh): array
    {
        $points = $mesh->positions->numbers();
        $normals = [];
        foreach (array_chunk(Weld::corners($mesh), 3) as [$a, $b, $c]) {
            $p = [$points[3 * $a], $points[3 * $a + 1], $points[3 * $a + 2]];
            $cross = Vec::cross(
                Vec::sub([$points[3 * $b], $points[3 * $b + 1], $points[3 * $b + 2]], $p),
                Vec::sub([$points[3 * $c], $points[3 * $c + 1], $points[3 * $c + 2]], $p),
            );
            $length = Vec::length($cross);
            $normals[] = $length < 1e-30 ? [0.0, 0.0, 0.0] : Vec::scale($cross, 1 / $length);
        }

        return $normals;
    }
}
