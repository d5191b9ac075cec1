<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** What of a mesh is to be another; what is left out stays. */
final readonly class MeshChange
{
    public function __construct(
        #[Assert\Length(min: 1, max: 120)]
        public ?string $label = null,
        #[Assert\Valid]
        public ?MeshReading $options = null,
        public ?bool $deleted = null,
        /** Whether a mesh that was made by working on an object is one of the project's own. */
        public ?bool $kept = null,
    ) {
    }
}
