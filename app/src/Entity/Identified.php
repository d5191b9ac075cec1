<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

trait Identified
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column]
    private ?int $id = null;

    public function id(): int
    {
        return $this->id ?? throw new \LogicException('Not stored yet.');
    }
}
