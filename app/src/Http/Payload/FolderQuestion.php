<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\App\Service\ProjectTexts;

/** What is known of a project in a folder of text. */
final readonly class FolderQuestion
{
    /**
     * @param mixed $known numbers by kind and key
     * @param mixed $taken keys by kind that are not to be given to anything else
     */
    public function __construct(
        #[Of('FolderNumbers', ProjectTexts::class)]
        public mixed $known = null,
        #[Of('FolderKeys', ProjectTexts::class)]
        public mixed $taken = null,
    ) {
    }
}
