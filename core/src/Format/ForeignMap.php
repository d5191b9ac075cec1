<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Field\Sampling;
use Rilta\Core\Material\Role;

/** An image that came with a material of another format, and what it says there. */
final readonly class ForeignMap
{
    /**
     * @param string                                                    $file     what it is called
     * @param list<array{role: Role, channels: string, inverted: bool}> $channels which roles lie in which of its channels; none where it is of one role
     */
    public function __construct(public string $file, public string $bytes, public Role $role, public array $channels, public Sampling $sampling)
    {
    }
}
