<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** Somebody tried a password that was wrong. Counted by account and by address. */
#[ORM\Entity]
#[ORM\Index(columns: ['account', 'at'])]
#[ORM\Index(columns: ['address', 'at'])]
class FailedSignIn
{
    use Identified;

    #[ORM\Column]
    public readonly \DateTimeImmutable $at;

    public function __construct(
        #[ORM\Column(length: 64)]
        public readonly string $account,
        #[ORM\Column(length: 64)]
        public readonly string $address,
    ) {
        $this->at = new \DateTimeImmutable();
    }
}
