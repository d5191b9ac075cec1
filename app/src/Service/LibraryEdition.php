<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\Bundle\DoctrineBundle\Attribute\AsDoctrineListener;
use Doctrine\ORM\Event\OnFlushEventArgs;
use Doctrine\ORM\Events;
use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapImage;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;

/** Gives projects another edition whenever something of a map library changes that code is made of. */
#[AsDoctrineListener(Events::onFlush)]
final class LibraryEdition
{
    private const OF_THE_LIBRARY = [MapSetRecord::class, MapRecord::class, MapImage::class, FamilyRecord::class];

    public function onFlush(OnFlushEventArgs $args): void
    {
        $unit = $args->getObjectManager()->getUnitOfWork();
        foreach ([...$unit->getScheduledEntityInsertions(), ...$unit->getScheduledEntityUpdates(), ...$unit->getScheduledEntityDeletions()] as $entity) {
            if (\in_array($entity::class, self::OF_THE_LIBRARY, true)) {
                // Of all projects: images are shared between them.
                $args->getObjectManager()->getConnection()->executeStatement('UPDATE project SET edition = ?', [bin2hex(random_bytes(8))]);

                return;
            }
        }
    }
}
