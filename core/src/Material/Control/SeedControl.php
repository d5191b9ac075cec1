<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/**
 * An unsigned 32-bit integer that random choices start from.
 *
 * @phpstan-import-type ShownWhenJson from ControlMeta
 *
 * @phpstan-type SeedControlJson array{
 *     type: 'seed',
 *     name: string,
 *     label: string,
 *     help: string,
 *     handle?: value-of<Handle>,
 *     shownWhen?: ShownWhenJson,
 *     default: int,
 *     structural: bool,
 *     largest: int,
 * }
 */
final readonly class SeedControl implements Control
{
    private const LARGEST = 0xFFFFFFFF;

    public function __construct(private ControlMeta $face, private int $default = 1)
    {
    }

    public function name(): string
    {
        return $this->face->name;
    }

    public function default(): int
    {
        return $this->default;
    }

    public function objection(mixed $value): ?string
    {
        $whole = \is_int($value) || (\is_float($value) && floor($value) === $value);

        return $whole && $value >= 0 && $value <= self::LARGEST ? null : 'expected a whole number from 0 to ' . self::LARGEST;
    }

    public function normalise(mixed $value): int
    {
        return is_numeric($value) ? (int) $value : $this->default;
    }

    public function numbers(mixed $value): array
    {
        return ['' => [0.0, (float) self::LARGEST, true]];
    }

    /** @return SeedControlJson */
    public function describe(): array
    {
        return ['type' => 'seed'] + $this->face->describe() + ['default' => $this->default, 'largest' => self::LARGEST, 'structural' => false];
    }

    public function schema(): array
    {
        return ['type' => 'integer', 'minimum' => 0, 'maximum' => self::LARGEST];
    }
}
