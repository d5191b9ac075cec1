<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\OutboxMail;
use Symfony\Component\Mailer\SentMessage;
use Symfony\Component\Mailer\Transport\AbstractTransport;
use Symfony\Component\Mime\Email;

/** Keeps mail instead of sending it: a stand-in for a mail server, shown under Outbox to whoever looks after the server. */
final class OutboxTransport extends AbstractTransport
{
    public function __construct(private readonly EntityManagerInterface $entities)
    {
        parent::__construct();
    }

    public function __toString(): string
    {
        return 'outbox://default';
    }

    protected function doSend(SentMessage $message): void
    {
        $mail = $message->getOriginalMessage();
        if (!$mail instanceof Email) {
            throw new \LogicException('No mail.');
        }
        foreach ($mail->getTo() as $to) {
            $this->entities->persist(new OutboxMail($to->getAddress(), (string) $mail->getSubject(), (string) $mail->getTextBody()));
        }
        $this->entities->flush();
    }
}
