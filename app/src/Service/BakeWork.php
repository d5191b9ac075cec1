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
     * When all regions are there. It may be done again: what it needs stays until the bake has ended.
     *
     * @param \Closure(): void $beat to be called now and then; throws Cancelled when nobody wants it any more
     *
     * @return \Closure(): array<string, mixed> what changes the database, to be called in the transaction that ends the bake; tells what was found out
     */
    public function complete(Bake $bake, \Closure $beat): \Closure;
}
