<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\Material;
use Rilta\Core\Mesh\Edit\Faces;
use Rilta\Core\Mesh\Edit\MeshEdit;
use Rilta\Core\Mesh\Edit\UvSet;
use Rilta\Core\Mesh\Edit\Weld;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;

/**
 * Makes UVs as a lane begins with them, in metres: what the lane's origin gives at each corner, where the object stands. Of several faces of a
 * projection, a triangle lies on the one that counts most where it looks; the seams between them become edges of pieces.
 */
final readonly class OriginUvs implements MeshEdit
{
    /** Triangles at once. */
    private const SOME = 20000;

    /**
     * @param Material $lane   the first step of its first lane is the origin
     * @param Placed   $stands where
     * @param int      $set    0 for the first
     * @param bool     $fill   whether 0…1 is filled
     */
    public function __construct(private Material $lane, private Placed $stands, private int $set, private Faces $faces, private bool $fill, private Compiler $compiler)
    {
    }

    public function of(Mesh $mesh): Mesh
    {
        $chosen = $this->faces->of($mesh);
        $uvs = UvSet::of($mesh, $this->set);
        foreach (array_chunk(array_keys(array_filter($chosen)), self::SOME) as $some) {
            foreach ($this->places($mesh, $some) as $k => $six) {
                array_splice($uvs, 6 * $some[$k], 6, $six);
            }
        }

        return UvSet::put($mesh, $this->set, $this->fill ? UvSet::filled($uvs, $chosen, true) : $uvs);
    }

    /**
     * @param list<int> $triangles
     *
     * @return list<list<float>> u and v of the three corners of each
     */
    private function places(Mesh $mesh, array $triangles): array
    {
        $lowered = Lowering::lower($this->lane, new class implements MapSets {
            public function find(string $name): ?MapSet
            {
                return null;
            }

            public function family(string $name): ?Family
            {
                return null;
            }

            public function families(): array
            {
                return [];
            }

            public function names(): array
            {
                return [];
            }
        });
        $taps = $lowered->stations[0]->taps;
        $outputs = [];
        foreach ($taps as $t => $tap) {
            $outputs["uv$t"] = $tap->uv;
            $outputs["weight$t"] = $tap->weight;
        }
        $stands = $this->stands;
        $inputs = ['objectOrigin' => $stands->position, 'objectX' => $stands->axes[0], 'objectY' => $stands->axes[1], 'objectZ' => $stands->axes[2]] + Surface::nothing();
        $bindings = array_fill_keys(array_keys(Surface::types()), Binding::Constant);
        foreach ($this->corners($mesh, $triangles) as $name => $numbers) {
            $inputs[$name] = $numbers;
            $bindings[$name] = str_starts_with($name, 'uv') ? Binding::Pairs : Binding::Triples;
        }
        $found = $this->compiler->compile($lowered->graph, $outputs, $bindings)->points(3 * \count($triangles), $lowered->uniforms(), [], $inputs);
        $places = [];
        foreach (array_keys($triangles) as $k) {
            $most = 0;
            foreach (array_keys($taps) as $t) {
                $most = $found["weight$t"][0][3 * $k] > $found["weight$most"][0][3 * $k] ? $t : $most;
            }
            [$u, $v] = $found["uv$most"];
            $six = [];
            foreach ([3 * $k, 3 * $k + 1, 3 * $k + 2] as $corner) {
                array_push($six, (float) $u[$corner], (float) $v[$corner]);
            }
            $places[] = $six;
        }

        return $places;
    }

    /**
     * What differs from corner to corner: places and normals of the triangles in the world, and UVs.
     *
     * @param list<int> $triangles
     *
     * @return array<string, list<float>>
     */
    private function corners(Mesh $mesh, array $triangles): array
    {
        $corners = Weld::corners($mesh);
        $normals = Faces::normals($mesh);
        $points = $mesh->positions->numbers();
        $all = [];
        foreach ($triangles as $t) {
            array_push($all, $corners[3 * $t], $corners[3 * $t + 1], $corners[3 * $t + 2]);
        }
        $inputs = ['position' => [], 'normal' => []];
        foreach ($triangles as $t) {
            // What has no area looks nowhere.
            $normal = $this->stands->normal($normals[$t] === [0.0, 0.0, 0.0] ? [0.0, 1.0, 0.0] : $normals[$t]);
            array_push($inputs['normal'], ...$normal, ...$normal, ...$normal);
        }
        foreach ($all as $v) {
            array_push($inputs['position'], ...$this->stands->point([$points[3 * $v], $points[3 * $v + 1], $points[3 * $v + 2]]));
        }
        foreach (Surface::UV_SETS as $i => $name) {
            $uvs = isset($mesh->attributes["TEXCOORD_$i"]) ? $mesh->attributes["TEXCOORD_$i"]->numbers() : [];
            foreach ($uvs === [] ? [] : $all as $v) {
                $inputs[$name][] = $uvs[2 * $v];
                $inputs[$name][] = $uvs[2 * $v + 1];
            }
        }

        return $inputs;
    }
}
