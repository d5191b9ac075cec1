<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Role;

/** What a check says of a map. */
final readonly class Finding
{
    /**
     * @param string    $code     what kind it is
     * @param bool      $grave    whether the picture is wrong because of it
     * @param string    $text     in words, with the figure
     * @param ?Role     $role     what the map should rather be, if that mends it
     * @param ?Encoding $encoding how it should rather be read, if that mends it
     * @param list<Fix> $fixes    what could be done about it, the likeliest first
     */
    public function __construct(
        public string $code,
        public bool $grave,
        public string $text,
        public ?Role $role = null,
        public ?Encoding $encoding = null,
        public array $fixes = [],
    ) {
    }
}
