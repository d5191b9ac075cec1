<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\App\Service\ProjectTexts;
use Symfony\Component\Validator\Constraints as Assert;

/** What a project is to say from now on. */
final readonly class FolderChange
{
    /**
     * @param string $state   of the project when it was asked for: where it says something else by now, nothing is changed
     * @param mixed  $changes by kind and key; null for what is to go
     * @param mixed  $known   as it was asked with
     * @param mixed  $taken   as it was asked with
     */
    public function __construct(
        #[Assert\Length(min: 64, max: 64)]
        public string $state,
        #[Assert\NotNull]
        #[Of('FolderTexts', ProjectTexts::class)]
        public mixed $changes,
        #[Of('FolderNumbers', ProjectTexts::class)]
        public mixed $known = null,
        #[Of('FolderKeys', ProjectTexts::class)]
        public mixed $taken = null,
    ) {
    }
}
