<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Checks;
use Symfony\Component\Validator\Constraints as Assert;

/** The name of a revision; "" takes it away. */
final readonly class RevisionName
{
    public function __construct(
        #[Assert\Length(max: Checks::LONGEST_NAME)]
        public string $name,
    ) {
    }
}
