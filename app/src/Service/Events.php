<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\ProjectEvent;

/** Notes what has changed for whoever has the project open; it is told once the transaction that it belongs to has ended. */
final readonly class Events
{
    public function __construct(private EntityManagerInterface $entities)
    {
    }

    /** @param array<string, mixed> $data */
    public function tell(Project $project, string $kind, int $target, array $data): void
    {
        $this->entities->persist(new ProjectEvent($project, $kind, $target, $data));
    }
}
