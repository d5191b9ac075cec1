<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Bake;
use Rilta\App\Entity\BakeRegion;

/** How one bake is computed, by a process that keeps what it has loaded for it. */
interface BakeWork
{
    /** @return array<string, string> rows of bytes, by the name of the image */
    public function region(BakeRegion $region): array;

    /**
     * When all regions are there.
     *
     * @return array<string, mixed> what was found out
     */
    public function complete(Bake $bake): array;
}
