<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** Objects, light and places of the eye that a project's materials are judged on. */
#[ORM\Entity]
#[ORM\Table(name: 'stage')]
class StageRecord
{
    use Identified;

    #[ORM\Column]
    public int $version = 1;

    /** What the browser called the save that made this version. */
    #[ORM\Column(length: 64)]
    public string $savedBy = '';

    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false)]
        public readonly Project $project,
        #[ORM\Column(type: 'text', length: 16777215)]
        public string $document,
        #[ORM\Column(length: 120)]
        public string $name,
    ) {
    }
}
