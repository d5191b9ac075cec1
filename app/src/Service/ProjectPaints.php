<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\Core\Stage\Paints;

/** What was painted on objects: kept once, by its SHA-256. */
final readonly class ProjectPaints implements Paints
{
    /** Bytes, of the largest mesh that there may be. */
    public const MOST_BYTES = 4 * 3_000_000;

    public function __construct(private Blobs $blobs)
    {
    }

    public function paint(string $name): ?string
    {
        if (!$this->blobs->has($name)) {
            return null;
        }

        return self::unpacked($this->blobs->get($name, 'what was painted'));
    }

    /**
     * Keeps what was painted.
     *
     * @param string $bytes four a vertex
     *
     * @return string what objects have for it
     */
    public function keep(string $bytes): string
    {
        return $this->blobs->put((string) gzencode($bytes, 5));
    }

    private static function unpacked(string $bytes): ?string
    {
        $paint = str_starts_with($bytes, "\x1f\x8b") ? @gzdecode($bytes, self::MOST_BYTES) : false;

        return $paint === false ? null : $paint;
    }
}
