<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Deliver\DeliveryProfile;
use Symfony\Component\Validator\Constraints as Assert;

/** A profile of deliveries of a project's own. */
final readonly class DeliveryProfileBody
{
    public function __construct(
        #[Assert\NotNull]
        #[Of('DeliveryProfile', DeliveryProfile::class)]
        public mixed $profile,
    ) {
    }
}
