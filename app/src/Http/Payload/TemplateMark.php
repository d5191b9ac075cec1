<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

/** Whether new materials may start from it. */
final readonly class TemplateMark
{
    public function __construct(
        public bool $template,
    ) {
    }
}
