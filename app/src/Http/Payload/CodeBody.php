<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Writer;
use Rilta\Core\Target\Options;
use Symfony\Component\Validator\Constraints as Assert;

/** A material that is handed over as code. */
final readonly class CodeBody
{
    /**
     * @param string $target  a language, by its name
     * @param string $prefix  what names begin with
     * @param bool   $arrays  whether maps of one size and format lie in one array texture
     * @param bool   $harness whether an entry is added
     * @param string $variant "" for the material as it is written
     */
    public function __construct(
        #[Assert\NotNull]
        #[Of('MaterialDocument', Writer::class)]
        public mixed $document,
        #[Assert\Length(max: 20)]
        public string $target,
        #[Assert\Length(max: 80)]
        public string $prefix = Options::PREFIX,
        public bool $arrays = true,
        public bool $harness = false,
        #[Assert\Length(max: 80)]
        public string $variant = '',
    ) {
    }
}
