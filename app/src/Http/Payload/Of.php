<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

/** What a value has to be, by its name among the schemas of the API. The core looks at it. */
#[\Attribute(\Attribute::TARGET_PROPERTY)]
final readonly class Of
{
    /**
     * @param class-string $from    of whose types it is one
     * @param bool         $partial whether parts of it will do
     */
    public function __construct(public string $schema, public string $from, public bool $partial = false)
    {
    }
}
