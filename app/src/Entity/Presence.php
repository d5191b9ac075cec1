<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** Somebody who has a material open, as long as their connection says so. */
#[ORM\Entity]
#[ORM\Index(columns: ['material', 'seen'])]
class Presence
{
    public function __construct(
        /** of the connection */
        #[ORM\Id, ORM\Column(length: 32)]
        public readonly string $id,
        #[ORM\Column]
        public readonly int $material,
        /** 0 for whoever is at a machine where nobody signs in */
        #[ORM\Column]
        public readonly int $person,
        #[ORM\Column(length: 120)]
        public readonly string $who,
        /** of the page: one person may have two */
        #[ORM\Column(length: 32)]
        public readonly string $page,
        #[ORM\Column]
        public \DateTimeImmutable $seen,
        /** where it looks, as JSON: six numbers, metres; "" if others are not to see it */
        #[ORM\Column(length: 160, options: ['default' => ''])]
        public string $eye = '',
    ) {
    }
}
