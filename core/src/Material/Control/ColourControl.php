<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/**
 * A colour: red, green and blue, 0…1, encoded as sRGB. Its numbers are uniforms.
 *
 * @phpstan-import-type ShownWhenJson from ControlMeta
 *
 * @phpstan-type ColourControlJson array{
 *     type: 'colour',
 *     name: string,
 *     label: string,
 *     help: string,
 *     handle?: value-of<Handle>,
 *     shownWhen?: ShownWhenJson,
 *     default: array{float, float, float},
 *     structural: bool,
 * }
 */
final readonly class ColourControl implements Control
{
    /** @param array{float, float, float} $default */
    public function __construct(private ControlMeta $face, private array $default)
    {
    }

    public function name(): string
    {
        return $this->face->name;
    }

    /** @return array{float, float, float} */
    public function default(): array
    {
        return $this->default;
    }

    public function objection(mixed $value): ?string
    {
        $right = \is_array($value) && array_is_list($value) && \count($value) === 3
            && array_filter($value, static fn (mixed $c): bool => (!\is_int($c) && !\is_float($c)) || !($c >= 0 && $c <= 1)) === [];

        return $right ? null : 'expected red, green and blue from 0 to 1';
    }

    /** @return array{float, float, float} */
    public function normalise(mixed $value): array
    {
        $c = \is_array($value) ? array_map(static fn (mixed $c): float => is_numeric($c) ? (float) $c : 0.0, array_values($value)) : [];

        return \count($c) === 3 ? [$c[0], $c[1], $c[2]] : $this->default;
    }

    public function numbers(mixed $value): array
    {
        return array_fill_keys(['/0', '/1', '/2'], [0.0, 1.0, false]);
    }

    /** @return ColourControlJson */
    public function describe(): array
    {
        return ['type' => 'colour'] + $this->face->describe() + ['default' => $this->default, 'structural' => false];
    }

    public function schema(): array
    {
        return ['type' => 'array', 'items' => ['type' => 'number', 'minimum' => 0, 'maximum' => 1], 'minItems' => 3, 'maxItems' => 3];
    }
}
