<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipLayout;
use Rilta\Core\Raster\Mips;

/**
 * A map made ready to be read: all mip levels, uncompressed, 1, 2 (one value of 16 bits) or 4 bytes a texel. Both the browser and the
 * kernels read this, so they see the same numbers. Derived from the map's file; may be deleted at any time.
 *
 * Layout: "RTP1", then width, height and bytes a texel as 32-bit little-endian integers, then the texels as
 * Raster\MipLayout orders them.
 *
 * @implements \ArrayAccess<int, int>
 */
final class TexelPack implements \ArrayAccess
{
    public const HEADER = 16;

    /** So many doublings of texels are read at once. */
    private const BLOCK = 10;
    /** Blocks that are kept, some 32 MB. */
    private const MOST_BLOCKS = 2048;

    /** @var array<int, list<int>> by their number, the oldest first */
    private array $blocks = [];

    /** @var resource */
    private $handle;

    private function __construct(private readonly string $file, public readonly int $width, public readonly int $height, public readonly int $size)
    {
        $handle = fopen($file, 'r');
        $this->handle = $handle === false ? throw UnreadableMap::missing(basename($file)) : $handle;
    }

    /** Makes the pack of a map's image. */
    public static function bytes(Image $image, MapFacts $facts): string
    {
        $slot = $facts->slot();
        $source = $slot->samples === 1 && $image->samples !== 1 ? $image->channel(0) : $image;
        if ($source->deep !== $slot->deep) {
            throw new \LogicException("$facts->name was decoded to another depth than it is read with.");
        }

        return 'RTP1' . pack('V3', $image->width, $image->height, $slot->texelBytes()) . Texels::pack(Mips::build($source, $facts->filter()), $slot->texelBytes());
    }

    /** @throws UnreadableMap */
    public static function open(string $file): self
    {
        $head = is_file($file) ? (string) file_get_contents($file, length: self::HEADER) : throw UnreadableMap::missing(basename($file));
        $facts = str_starts_with($head, 'RTP1') && \strlen($head) === self::HEADER ? unpack('V3', $head, 4) : false;
        if ($facts === false) {
            throw UnreadableMap::damagedPack(basename($file));
        }
        [$width, $height, $size] = array_map(static fn (mixed $v): int => \is_int($v) ? $v : 0, array_values($facts));
        if (!\in_array($size, [1, 2, 4], true) || filesize($file) !== self::HEADER + $size * (new MipLayout($width, $height))->texels) {
            throw UnreadableMap::damagedPack(basename($file));
        }

        return new self($file, $width, $height, $size);
    }

    /** Whether the pack is that of the slot: roles and encodings may have changed since it was made. */
    public function fits(TextureBinding $slot): bool
    {
        return [$this->width, $this->height, $this->size] === [$slot->width, $slot->height, $slot->texelBytes()];
    }

    /**
     * All texels in memory, for work on whole images.
     *
     * @return list<int>
     */
    public function all(): array
    {
        return Texels::unpack((string) file_get_contents($this->file, offset: self::HEADER), $this->size);
    }

    public function offsetExists(mixed $offset): bool
    {
        return $offset >= 0;
    }

    /** One texel, read from the file with those around it: a probe needs a few of millions. */
    public function offsetGet(mixed $offset): int
    {
        return ($this->blocks[$offset >> self::BLOCK] ?? $this->block($offset >> self::BLOCK))[$offset & (1 << self::BLOCK) - 1] ?? throw UnreadableMap::damagedPack(basename($this->file));
    }

    /** @return list<int> */
    private function block(int $number): array
    {
        fseek($this->handle, self::HEADER + ($this->size * $number << self::BLOCK));
        $bytes = fread($this->handle, max(1, $this->size << self::BLOCK));
        if ($bytes === false || \strlen($bytes) % $this->size !== 0) {
            throw UnreadableMap::damagedPack(basename($this->file));
        }
        if (\count($this->blocks) >= self::MOST_BLOCKS) {
            unset($this->blocks[array_key_first($this->blocks)]);
        }

        return $this->blocks[$number] = Texels::unpack($bytes, $this->size);
    }

    public function offsetSet(mixed $offset, mixed $value): never
    {
        throw new \LogicException('Texels are not written one by one.');
    }

    public function offsetUnset(mixed $offset): never
    {
        throw new \LogicException('Texels are not removed.');
    }
}
