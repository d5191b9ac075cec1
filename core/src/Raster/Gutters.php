<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/** What is covered of a picture, drawn out over what is not, so that no filter reads what nobody meant: each free texel near by takes the values of a covered one. */
final readonly class Gutters
{
    /** Texels by which it is drawn out. */
    public const WIDTH = 16;

    /** @param array<int, int> $from the covered texel that each takes its values from */
    private function __construct(private array $from)
    {
    }

    /**
     * @param string $covered a byte a texel, "\0" where nothing lies, rows from the top
     * @param int    $size    texels a side
     */
    public static function of(string $covered, int $size, int $width = self::WIDTH): self
    {
        $from = $rim = [];
        for ($at = strpos($covered, "\0"); $at !== false; $at = strpos($covered, "\0", $at + 1)) {
            foreach (self::beside($at, $size) as $other) {
                if ($covered[$other] !== "\0") {
                    $rim[$at] = $other;
                    break;
                }
            }
        }
        for ($ring = 0; $ring < $width && $rim !== []; ++$ring) {
            $next = [];
            foreach ($rim as $at => $source) {
                $from[$at] = $source;
            }
            foreach ($rim as $at => $source) {
                foreach (self::beside($at, $size) as $other) {
                    if ($covered[$other] === "\0" && !isset($from[$other])) {
                        $next[$other] ??= $source;
                    }
                }
            }
            $rim = $next;
        }

        return new self($from);
    }

    /**
     * @param string $rows  values of all texels
     * @param int    $bytes that a texel has
     */
    public function drawnOut(string $rows, int $bytes): string
    {
        foreach ($this->from as $at => $source) {
            for ($k = 0; $k < $bytes; ++$k) {
                $rows[$bytes * $at + $k] = $rows[$bytes * $source + $k];
            }
        }

        return $rows;
    }

    /** @return list<int> within the square */
    private static function beside(int $at, int $size): array
    {
        [$x, $y] = [$at % $size, intdiv($at, $size)];
        $beside = [];
        if ($x > 0) {
            $beside[] = $at - 1;
        }
        if ($x < $size - 1) {
            $beside[] = $at + 1;
        }
        if ($y > 0) {
            $beside[] = $at - $size;
        }
        if ($y < $size - 1) {
            $beside[] = $at + $size;
        }

        return $beside;
    }
}
