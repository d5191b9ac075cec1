<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/**
 * One of a closed set of words.
 *
 * @phpstan-import-type ShownWhenJson from ControlMeta
 *
 * @phpstan-type ChoiceControlJson array{
 *     type: 'choice',
 *     name: string,
 *     label: string,
 *     help: string,
 *     shownWhen?: ShownWhenJson,
 *     options: list<array{value: string, label: string}>,
 *     default: string,
 *     structural: bool,
 *     handle?: value-of<Handle>,
 * }
 */
final readonly class ChoiceControl implements Control
{
    /** @param array<array-key, string> $options labels by value */
    public function __construct(private ControlMeta $face, private array $options, private string $default)
    {
    }

    public function name(): string
    {
        return $this->face->name;
    }

    public function default(): string
    {
        return $this->default;
    }

    public function objection(mixed $value): ?string
    {
        return \is_string($value) && isset($this->options[$value])
            ? null
            : 'expected one of ' . implode(', ', array_keys($this->options));
    }

    public function normalise(mixed $value): string
    {
        return \is_string($value) ? $value : $this->default;
    }

    public function numbers(mixed $value): array
    {
        return [];
    }

    /** @return ChoiceControlJson */
    public function describe(): array
    {
        $options = [];
        foreach ($this->options as $value => $label) {
            $options[] = ['value' => (string) $value, 'label' => $label];
        }

        return ['type' => 'choice'] + $this->face->describe() + ['options' => $options, 'default' => $this->default, 'structural' => true];
    }

    /** @return array{enum: list<string>} */
    public function schema(): array
    {
        return ['enum' => array_map(strval(...), array_keys($this->options))];
    }
}
