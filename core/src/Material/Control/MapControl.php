<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/** A map of the project, as "set/role"; empty for none. Whether it is there is seen at lowering. */
final readonly class MapControl implements Control
{
    public function __construct(private Face $face)
    {
    }

    public function name(): string
    {
        return $this->face->name;
    }

    public function default(): string
    {
        return '';
    }

    public function objection(mixed $value): ?string
    {
        return \is_string($value) && ($value === '' || preg_match('~^[a-z0-9][a-z0-9._-]{0,79}/[a-z-]{1,20}$~D', $value) === 1)
            ? null
            : 'expected a map as set/role, for example "brine/normal", or an empty text';
    }

    public function normalise(mixed $value): string
    {
        return \is_string($value) ? $value : '';
    }

    public function isStructural(): bool
    {
        return true;
    }

    public function describe(): array
    {
        return ['type' => 'map'] + $this->face->describe() + ['default' => '', 'structural' => true];
    }

    public function schema(): array
    {
        return ['type' => 'string', 'pattern' => '^(?:[a-z0-9][a-z0-9._-]{0,79}/[a-z-]{1,20})?$'];
    }
}
