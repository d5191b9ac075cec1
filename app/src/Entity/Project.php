<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;
use Rilta\Core\Deliver\DeliveryProfile;
use Rilta\Core\Judge\Profile;

/**
 * A team's workspace.
 *
 * @phpstan-import-type BudgetJson from Profile
 * @phpstan-import-type DeliveryProfileJson from DeliveryProfile
 */
#[ORM\Entity]
#[ORM\UniqueConstraint(columns: ['slug'])]
class Project
{
    use Identified;

    /** Another after every change of map libraries. */
    #[ORM\Column(length: 32)]
    public string $edition = '';

    /** Since when it is out of the way; nothing of it is gone. */
    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $archivedAt = null;

    /** @var list<BudgetJson> budgets of its own, as files have them */
    #[ORM\Column(type: 'json')]
    public array $budgets = [];

    /** @var list<DeliveryProfileJson> profiles of deliveries of its own, as files have them */
    #[ORM\Column(type: 'json')]
    public array $profiles = [];

    public function __construct(
        #[ORM\Column(length: 80)]
        public readonly string $slug,
        #[ORM\Column(length: 120)]
        public string $name,
        #[ORM\Column(length: 400)]
        public string $about = '',
    ) {
    }
}
