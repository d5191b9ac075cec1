<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/** What can be asked for texels here and there, rows from the top, each an integer as in Image. */
interface Readable
{
    /** @return array{int, int} width and height */
    public function size(): array;

    /** 1 or 4 values a texel. */
    public function samples(): int;

    /** Whether its one value has 16 bits. */
    public function isDeep(): bool;

    public function at(int $x, int $y): int;

    /** @return list<int> */
    public function row(int $y): array;

    /** @return list<int> */
    public function column(int $x): array;
}
