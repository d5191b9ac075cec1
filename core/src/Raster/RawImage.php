<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/**
 * An image as the bytes it was decoded to: four of 8 bits a texel, red first, rows from the top. Whoever reads a few of its texels
 * needs no list of all, which takes three times as long to make as the image to decode.
 */
final readonly class RawImage implements Readable
{
    private const SIZE = 4;

    public function __construct(public int $width, public int $height, public string $bytes)
    {
        if (\strlen($bytes) !== self::SIZE * $width * $height) {
            throw new \InvalidArgumentException(\sprintf('%d x %d texels are %d bytes, not %d.', $width, $height, self::SIZE * $width * $height, \strlen($bytes)));
        }
    }

    public function size(): array
    {
        return [$this->width, $this->height];
    }

    public function samples(): int
    {
        return self::SIZE;
    }

    public function isDeep(): bool
    {
        return false;
    }

    public function at(int $x, int $y): int
    {
        return self::unpack($this->bytes, self::SIZE * ($y * $this->width + $x), 1)[0];
    }

    public function row(int $y): array
    {
        return self::unpack($this->bytes, self::SIZE * $y * $this->width, $this->width);
    }

    public function column(int $x): array
    {
        $column = '';
        for ($at = self::SIZE * $x, $end = \strlen($this->bytes); $at < $end; $at += self::SIZE * $this->width) {
            $column .= substr($this->bytes, $at, self::SIZE);
        }

        return self::unpack($column, 0, $this->height);
    }

    /** @return list<int> */
    private static function unpack(string $bytes, int $from, int $count): array
    {
        /** @var array<int, int>|false $list */
        $list = unpack("V$count", $bytes, $from);

        return array_values($list === false ? [] : $list);
    }
}
