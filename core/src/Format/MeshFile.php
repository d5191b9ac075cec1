<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Mesh\Assembly;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\MeshOptions;

/** A file of triangles as a mesh: glTF 2.0, text or binary, or Wavefront OBJ. */
final class MeshFile
{
    public const MOST_BYTES = 64 * 1024 * 1024;
    /** What files of meshes, and those that come with them, are called. */
    public const NAMES = '/\.(glb|gltf|obj)$/Di';

    /**
     * @param array<string, string> $others bytes of files that came with it, by name
     *
     * @throws UnreadableMesh
     */
    public static function read(string $bytes, string $file, MeshOptions $options = new MeshOptions(), array $others = []): Mesh
    {
        if (\strlen($bytes) + array_sum(array_map(strlen(...), $others)) > self::MOST_BYTES) {
            throw UnreadableMesh::of($file, \sprintf('with all that belongs to it, it has more than %d MiB', self::MOST_BYTES / 1048576));
        }
        if ($bytes === '') {
            throw UnreadableMesh::of($file, 'it is empty');
        }
        // Its content says what it is; a wrong name costs nothing.
        $gltf = str_starts_with($bytes, 'glTF') || str_starts_with(ltrim(substr($bytes, 0, 64), "\xEF\xBB\xBF \t\r\n"), '{');
        if (!$gltf && preg_match('/\.obj$/Di', $file) !== 1) {
            throw UnreadableMesh::of($file, 'expected a mesh as GLB, glTF or OBJ');
        }
        $pieces = $gltf ? GltfFile::read($bytes, $file, $others) : ObjFile::read($bytes, $file);
        if ($pieces === []) {
            throw UnreadableMesh::of($file, 'there are no triangles in it');
        }
        try {
            return Assembly::of($pieces, $options);
        } catch (\LengthException $e) {
            throw UnreadableMesh::of($file, $e->getMessage());
        }
    }

    /**
     * What of a file belongs to it and lies in files beside it, by name.
     *
     * @return list<string>
     */
    public static function needs(string $bytes): array
    {
        return GltfContainer::needs($bytes, ['buffers']);
    }
}
