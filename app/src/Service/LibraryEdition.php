<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\Bundle\DoctrineBundle\Attribute\AsDoctrineListener;
use Doctrine\ORM\Event\OnFlushEventArgs;
use Doctrine\ORM\Event\PostFlushEventArgs;
use Doctrine\ORM\Events;
use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapImage;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;

/**
 * Gives projects another edition once something of a map library has changed that code is made of. Afterwards, never before: code
 * that was made of the library as it was must not be kept under the edition of what it becomes.
 */
#[AsDoctrineListener(Events::onFlush)]
#[AsDoctrineListener(Events::postFlush)]
final class LibraryEdition
{
    private bool $changed = false;

    public function onFlush(OnFlushEventArgs $args): void
    {
        $unit = $args->getObjectManager()->getUnitOfWork();
        foreach ([...$unit->getScheduledEntityInsertions(), ...$unit->getScheduledEntityUpdates(), ...$unit->getScheduledEntityDeletions()] as $entity) {
            $this->changed = $this->changed || $entity instanceof MapSetRecord || $entity instanceof MapRecord || $entity instanceof MapImage || $entity instanceof FamilyRecord;
        }
    }

    public function postFlush(PostFlushEventArgs $args): void
    {
        if ($this->changed) {
            $this->changed = false;
            // Of all projects: images are shared between them.
            $args->getObjectManager()->getConnection()->executeStatement('UPDATE project SET edition = ?', [bin2hex(random_bytes(8))]);
        }
    }
}
