<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/** A mail that a server without a mail server of its own has kept. */
#[ORM\Entity]
#[ORM\Table(name: 'outbox')]
class OutboxMail
{
    use Identified;

    #[ORM\Column]
    public readonly \DateTimeImmutable $at;

    public function __construct(
        #[ORM\Column(name: 'recipient', length: 190)]
        public readonly string $to,
        #[ORM\Column(length: 190)]
        public readonly string $subject,
        #[ORM\Column(type: 'text')]
        public readonly string $text,
    ) {
        $this->at = new \DateTimeImmutable();
    }
}
