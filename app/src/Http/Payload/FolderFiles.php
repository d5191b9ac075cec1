<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Symfony\Component\Validator\Constraints as Assert;

/** Files that a project needs. */
final readonly class FolderFiles
{
    /** @param list<string> $files by their SHA-256 */
    public function __construct(
        #[Assert\Count(min: 1, max: 64)]
        #[Assert\All([new Assert\NotNull(), new Assert\Type('string'), new Assert\Length(min: 64, max: 64)])]
        public array $files,
    ) {
    }
}
