<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\Material;
use Rilta\Core\Mesh\Edit\Faces;
use Rilta\Core\Mesh\Edit\MeshEdit;
use Rilta\Core\Mesh\Edit\UvSet;
use Rilta\Core\Mesh\Edit\Watch;
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
    private const SOME = 5000;
    /** What takes some seconds. */
    public const MOST_TRIANGLES = 200_000;

    /**
     * @param Material $lane   the first step of its first lane is the origin
     * @param Placed   $stands where
     * @param int      $set    0 for the first
     * @param bool     $fill   whether 0…1 is filled
     */
    public function __construct(private Material $lane, private Placed $stands, private int $set, private Faces $faces, private bool $fill, private Compiler $compiler, private ?Watch $watch = null)
    {
    }

    public function of(Mesh $mesh): Mesh
    {
        $chosen = $this->faces->of($mesh);
        if (\count(array_filter($chosen)) > self::MOST_TRIANGLES) {
            throw new \LengthException(\sprintf('%d triangles are chosen, and %d can follow a lane at once', \count(array_filter($chosen)), self::MOST_TRIANGLES));
        }
        $uvs = UvSet::of($mesh, $this->set);
        $lowered = $this->lowered();
        $taps = $lowered->stations[0]->taps;
        $outputs = [];
        foreach ($taps as $t => $tap) {
            $outputs["uv$t"] = $tap->at->uv;
            $outputs["weight$t"] = $tap->weight;
        }
        [$corners, $normals, $points] = [Weld::corners($mesh), Faces::normals($mesh), $mesh->positions->numbers()];
        $sets = [];
        foreach (Surface::UV_SETS as $i => $name) {
            if (isset($mesh->attributes["TEXCOORD_$i"])) {
                $sets[$name] = $mesh->attributes["TEXCOORD_$i"]->numbers();
            }
        }
        $bindings = array_fill_keys(array_keys($sets), Binding::Pairs) + ['position' => Binding::Triples, 'normal' => Binding::Triples] + array_fill_keys(array_keys(Surface::types()), Binding::Constant);
        $kernel = $this->compiler->compile($lowered->graph, $outputs, $bindings);
        $stands = $this->stands;
        $constant = ['objectOrigin' => $stands->position, 'objectX' => $stands->axes[0], 'objectY' => $stands->axes[1], 'objectZ' => $stands->axes[2]] + Surface::nothing();
        $parts = array_chunk(array_keys(array_filter($chosen)), self::SOME);
        foreach ($parts as $part => $some) {
            $this->watch?->at($part / \count($parts));
            $inputs = ['position' => [], 'normal' => []] + array_fill_keys(array_keys($sets), []);
            foreach ($some as $t) {
                // What has no area looks nowhere.
                $normal = $stands->normal($normals[$t] === [0.0, 0.0, 0.0] ? [0.0, 1.0, 0.0] : $normals[$t]);
                array_push($inputs['normal'], ...$normal, ...$normal, ...$normal);
                foreach ([$corners[3 * $t], $corners[3 * $t + 1], $corners[3 * $t + 2]] as $v) {
                    array_push($inputs['position'], ...$stands->point([$points[3 * $v], $points[3 * $v + 1], $points[3 * $v + 2]]));
                    foreach ($sets as $name => $numbers) {
                        $inputs[$name][] = $numbers[2 * $v];
                        $inputs[$name][] = $numbers[2 * $v + 1];
                    }
                }
            }
            $found = $kernel->points(3 * \count($some), $lowered->uniforms(), [], $inputs + $constant);
            foreach ($some as $k => $t) {
                $most = 0;
                foreach (array_keys($taps) as $tap) {
                    $most = $found["weight$tap"][0][3 * $k] > $found["weight$most"][0][3 * $k] ? $tap : $most;
                }
                foreach ([0, 1, 2] as $corner) {
                    foreach ([0, 1] as $axis) {
                        $uvs[6 * $t + 2 * $corner + $axis] = (float) $found["uv$most"][$axis][3 * $k + $corner];
                    }
                }
            }
        }

        /** @var list<float> $uvs */
        return UvSet::put($mesh, $this->set, $this->fill ? UvSet::filled($uvs, $chosen, true) : $uvs);
    }

    /** The lane without maps: its origin reads none. */
    private function lowered(): Lowered
    {
        return Lowering::lower($this->lane, new class implements MapSets {
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
    }
}
