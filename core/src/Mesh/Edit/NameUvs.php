<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

use Rilta\Core\Mesh\Mesh;

/** Says what a set of UVs is for; the mesh stays as it is. */
final readonly class NameUvs implements MeshEdit
{
    /** @param int $set 0 for the first */
    public function __construct(public int $set, public string $name)
    {
    }

    public function of(Mesh $mesh): Mesh
    {
        return isset($mesh->attributes["TEXCOORD_$this->set"]) ? $mesh : throw new \LengthException('it has no UV set ' . $this->set + 1);
    }

    /**
     * What sets are called after some edits.
     *
     * @param array<int, string> $names by set, 0 for the first, before them
     * @param list<MeshEdit>     $edits
     *
     * @return array<int, string>
     */
    public static function after(array $names, array $edits): array
    {
        foreach ($edits as $edit) {
            if ($edit instanceof self) {
                $names[$edit->set] = $edit->name;
            } elseif ($edit instanceof DropUvs) {
                unset($names[$edit->set]);
            } elseif ($edit instanceof CopyUvs && isset($names[$edit->from])) {
                $names[$edit->to] = $names[$edit->from];
            } elseif ($edit instanceof UnwrapUvs) {
                $names[$edit->set] = 'Unwrapped';
            }
        }

        return $names;
    }
}
