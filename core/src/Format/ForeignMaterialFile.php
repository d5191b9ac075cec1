<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/** A file of materials of another format: glTF 2.0, text or binary, or MaterialX. */
final class ForeignMaterialFile
{
    /** What such files are called. */
    public const NAMES = '/\.(glb|gltf|mtlx)$/Di';
    public const KINDS = 'a GLB, glTF or MaterialX file';

    /**
     * @param array<string, string> $others bytes of files that came with it, by name
     *
     * @return non-empty-list<ForeignMaterial>
     *
     * @throws UnreadableMesh
     */
    public static function read(string $bytes, string $file, array $others): array
    {
        return self::isXml($bytes) ? MaterialXMaterials::read($bytes, $file, $others) : GltfMaterials::read($bytes, $file, $others);
    }

    /**
     * What of a file belongs to it and lies in files beside it, by name.
     *
     * @return list<string>
     */
    public static function needs(string $bytes): array
    {
        return self::isXml($bytes) ? MaterialXMaterials::needs($bytes) : GltfContainer::needs($bytes, ['buffers', 'images']);
    }

    private static function isXml(string $bytes): bool
    {
        return str_starts_with(ltrim($bytes, "\xEF\xBB\xBF \t\r\n"), '<');
    }
}
