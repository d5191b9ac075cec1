<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;
use Symfony\Component\Mailer\Transport\Dsn;
use Symfony\Component\Mailer\Transport\TransportFactoryInterface;
use Symfony\Component\Mailer\Transport\TransportInterface;

#[AutoconfigureTag('mailer.transport_factory')]
final readonly class OutboxTransportFactory implements TransportFactoryInterface
{
    public function __construct(private EntityManagerInterface $entities)
    {
    }

    public function create(Dsn $dsn): TransportInterface
    {
        return new OutboxTransport($this->entities);
    }

    public function supports(Dsn $dsn): bool
    {
        return $dsn->getScheme() === 'outbox';
    }
}
