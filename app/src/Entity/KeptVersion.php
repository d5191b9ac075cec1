<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** A stage or a recipe as it was a moment ago: what others have changed since is merged by it. Materials keep all their revisions. */
#[ORM\Entity]
class KeptVersion
{
    public function __construct(
        /** what it is of: stage or recipe */
        #[ORM\Id]
        #[ORM\Column(length: 20)]
        public readonly string $kind,
        /** the number of that */
        #[ORM\Id]
        #[ORM\Column]
        public readonly int $target,
        #[ORM\Id]
        #[ORM\Column]
        public readonly int $version,
        #[ORM\Column(type: 'text', length: 16777215)]
        public readonly string $document,
    ) {
    }
}
