<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** Which triangles of a mesh are meant. */
final readonly class FacesBody
{
    /**
     * @param string               $mesh  what the stage calls it
     * @param array<string, mixed> $faces "by" names what they have in common; the rest are its values
     */
    public function __construct(
        #[Assert\Length(min: 1, max: 80)]
        public string $mesh,
        #[Assert\Count(min: 1, max: 10)]
        public array $faces,
    ) {
    }
}
