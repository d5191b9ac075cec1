<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh\Edit;

/** Is told how far an edit is that takes some seconds; whoever does not want to wait throws. */
interface Watch
{
    /** @param float $share of all that is to be done, 0…1 */
    public function at(float $share): void;
}
