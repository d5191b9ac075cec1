<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** A change of the mesh that an object has. */
final readonly class MeshEditBody
{
    /**
     * @param string               $mesh  what the stage calls it
     * @param array<string, mixed> $edit  "edit" names what is done; the rest are its values
     * @param ?string              $paint what is painted on the object so far
     * @param ?string              $watch a name of the caller's own, by which it is asked how far it is
     */
    public function __construct(
        #[Assert\Length(min: 1, max: 80)]
        public string $mesh,
        #[Assert\Count(min: 1, max: 20)]
        public array $edit,
        #[Assert\Regex('/^[0-9a-f]{64}$/D')]
        public ?string $paint = null,
        #[Assert\Regex('/^[\w-]{8,64}$/D')]
        public ?string $watch = null,
    ) {
    }
}
