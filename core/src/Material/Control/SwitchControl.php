<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/**
 * @phpstan-import-type ShownWhenJson from ControlMeta
 *
 * @phpstan-type SwitchControlJson array{
 *     type: 'switch',
 *     name: string,
 *     label: string,
 *     help: string,
 *     handle?: value-of<Handle>,
 *     shownWhen?: ShownWhenJson,
 *     default: bool,
 *     structural: bool,
 *     rigid: bool,
 * }
 */
final readonly class SwitchControl implements Control
{
    /** @param bool $rigid whether other code is needed for either state, even where it follows a parameter */
    public function __construct(private ControlMeta $face, private bool $default, private bool $rigid = false)
    {
    }

    public function name(): string
    {
        return $this->face->name;
    }

    public function default(): bool
    {
        return $this->default;
    }

    public function objection(mixed $value): ?string
    {
        return \is_bool($value) ? null : 'expected true or false';
    }

    public function normalise(mixed $value): bool
    {
        return $value === true;
    }

    public function numbers(mixed $value): array
    {
        return [];
    }

    /** @return SwitchControlJson */
    public function describe(): array
    {
        return ['type' => 'switch'] + $this->face->describe() + ['default' => $this->default, 'structural' => true, 'rigid' => $this->rigid];
    }

    public function schema(): array
    {
        return ['type' => 'boolean'];
    }
}
