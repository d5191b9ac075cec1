<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Mesh\Mesh;

/** Turns and scales UVs of a set about the middle of what is chosen, then moves them; or has them fill 0…1. */
final readonly class MoveUvs implements MeshEdit
{
    /**
     * @param int                 $set   0 for the first
     * @param float               $turn  degrees, to the right as seen with v down
     * @param array{float, float} $scale
     * @param array{float, float} $shift in UV units
     * @param string              $fill  "" to move them; "square" to fill 0…1 both ways, "even" with the ratio of width to height kept
     */
    public function __construct(public int $set, public Faces $faces, public float $turn = 0.0, public array $scale = [1.0, 1.0], public array $shift = [0.0, 0.0], public string $fill = '')
    {
    }

    public function of(Mesh $mesh): Mesh
    {
        if (!isset($mesh->attributes["TEXCOORD_$this->set"])) {
            throw new \LengthException('it has no UV set ' . $this->set + 1);
        }
        $chosen = $this->faces->of($mesh);
        $uvs = UvSet::of($mesh, $this->set);
        if ($this->fill !== '') {
            return UvSet::put($mesh, $this->set, UvSet::filled($uvs, $chosen, $this->fill === 'even'));
        }
        $box = UvSet::box($uvs, $chosen) ?? [0.0, 0.0, 0.0, 0.0];
        [$x, $y] = [($box[0] + $box[2]) / 2, ($box[1] + $box[3]) / 2];
        [$cos, $sin] = [cos(deg2rad($this->turn)), sin(deg2rad($this->turn))];
        foreach ($chosen as $t => $in) {
            for ($k = 6 * $t; $in && $k < 6 * $t + 6; $k += 2) {
                [$u, $v] = [$this->scale[0] * ($uvs[$k] - $x), $this->scale[1] * ($uvs[$k + 1] - $y)];
                $uvs[$k] = $x + $cos * $u - $sin * $v + $this->shift[0];
                $uvs[$k + 1] = $y + $sin * $u + $cos * $v + $this->shift[1];
            }
        }

        /** @var list<float> $uvs */
        return UvSet::put($mesh, $this->set, $uvs);
    }
}
