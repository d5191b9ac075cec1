<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** Work that workers do, and how far it is. */
trait Underway
{
    #[ORM\Column(length: 12)]
    public BakeState $state = BakeState::Waiting;

    #[ORM\Column(length: 1000)]
    public string $failure = '';

    /** parts that are finished */
    #[ORM\Column]
    public int $done = 0;

    /** how often a worker has begun with it */
    #[ORM\Column]
    public int $attempts = 0;
}
