<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/** An image as a bake gives it: bytes, rows from the top, one or three values of 8 bits a pixel, or one of 16, the larger byte first. */
final readonly class Rows implements Readable
{
    private int $stride;

    /** @param int $values 1 or 3 a pixel */
    public function __construct(private int $width, private int $height, private int $values, private bool $deep, public string $bytes)
    {
        $this->stride = $values * ($deep ? 2 : 1);
        if (\strlen($bytes) !== $width * $height * $this->stride) {
            throw new \InvalidArgumentException(\sprintf('%d x %d pixels are %d bytes, not %d.', $width, $height, $width * $height * $this->stride, \strlen($bytes)));
        }
    }

    /** Without its alpha, if it has one. */
    public static function of(Image $image): self
    {
        $bytes = '';
        foreach (array_chunk($image->texels, 16384) as $part) {
            $bytes .= pack($image->deep ? 'n*' : ($image->samples === 1 ? 'C*' : 'V*'), ...$part);
        }

        return new self($image->width, $image->height, $image->samples === 1 ? 1 : 3, $image->deep, $image->samples === 1 ? $bytes : (string) preg_replace('/(...)./s', '$1', $bytes));
    }

    public function size(): array
    {
        return [$this->width, $this->height];
    }

    public function samples(): int
    {
        return $this->values === 1 ? 1 : 4;
    }

    public function isDeep(): bool
    {
        return $this->deep;
    }

    public function at(int $x, int $y): int
    {
        return $this->unpacked(substr($this->bytes, $this->stride * ($y * $this->width + $x), $this->stride))[0];
    }

    public function row(int $y): array
    {
        return $this->unpacked(substr($this->bytes, $this->stride * $y * $this->width, $this->stride * $this->width));
    }

    public function column(int $x): array
    {
        $column = '';
        for ($at = $this->stride * $x, $end = \strlen($this->bytes); $at < $end; $at += $this->stride * $this->width) {
            $column .= substr($this->bytes, $at, $this->stride);
        }

        return $this->unpacked($column);
    }

    /** With all its texels in memory; those of three values are opaque. */
    public function image(): Image
    {
        $texels = [];
        for ($y = 0; $y < $this->height; ++$y) {
            array_push($texels, ...$this->row($y));
        }

        return new Image($this->width, $this->height, $this->samples(), $texels, $this->deep);
    }

    /** @return list<int> */
    private function unpacked(string $bytes): array
    {
        if ($this->values === 3) {
            // Three bytes become four.
            $bytes = (string) preg_replace('/(...)/s', "$1\xFF", $bytes);
        }
        /** @var array<int, int>|false $list */
        $list = unpack($this->deep ? 'n*' : ($this->values === 1 ? 'C*' : 'V*'), $bytes);

        return array_values($list === false ? [] : $list);
    }
}
