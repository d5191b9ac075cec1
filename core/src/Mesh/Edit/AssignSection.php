<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Mesh\Assembly;
use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\Primitive;

/** Makes faces a section, or part of one; sections that have none left are gone. */
final readonly class AssignSection implements MeshEdit
{
    public function __construct(public string $name, public Faces $faces)
    {
    }

    public function of(Mesh $mesh): Mesh
    {
        $chosen = $this->faces->of($mesh);
        $names = array_map(static fn (Primitive $part): string => $part->material, $mesh->primitives);
        $own = array_search($this->name, $names, true);
        if ($own === false) {
            $names[] = $this->name;
            $own = \count($names) - 1;
        }
        $triangles = array_fill(0, \count($names), []);
        foreach ($mesh->primitives as $p => $part) {
            for ($t = $part->first; $t < $part->first + $part->count; ++$t) {
                $triangles[$chosen[$t] ? $own : $p][] = $t;
            }
        }
        $triangles = array_filter($triangles, static fn (array $some): bool => $some !== []);
        if (\count($triangles) > Assembly::MOST_SECTIONS) {
            throw new \LengthException(\sprintf('it would have %d sections, and a mesh may have %d', \count($triangles), Assembly::MOST_SECTIONS));
        }
        $all = Weld::corners($mesh);
        $corners = $tags = $primitives = [];
        foreach ($triangles as $p => $some) {
            $primitives[] = new Primitive($names[$p], intdiv(\count($corners), 3), \count($some));
            foreach ($some as $t) {
                array_push($corners, $all[3 * $t], $all[3 * $t + 1], $all[3 * $t + 2]);
                $tag = (string) (\count($primitives) - 1);
                array_push($tags, $tag, $tag, $tag);
            }
        }
        [$from, $corners] = Parting::of($corners, $tags, $mesh->positions->count());
        $sections = array_fill(0, \count($from), 0.0);
        foreach ($corners as $i => $vertex) {
            $sections[$vertex] = (float) $tags[$i];
        }

        /** @var list<float> $sections */
        return new Mesh(['_SECTION' => Attribute::of(1, $sections)] + Parting::attributes($mesh, $from), Parting::indices($corners), $primitives);
    }
}
