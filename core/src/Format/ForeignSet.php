<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/** Maps of a material of another format that lie in the same way: a map set that is to be. */
final readonly class ForeignSet
{
    /** @param non-empty-list<ForeignMap> $maps */
    public function __construct(public string $name, public array $maps)
    {
    }
}
