<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/**
 * The variants of a material, and what each of them makes of its parameters.
 *
 * @phpstan-import-type Value from Control\Control
 */
final readonly class Variants
{
    /**
     * @param array<int, Parameter> $parameters
     * @param array<int, Variant>   $all        by their places in the document; no chain of bases leads back to where it began
     */
    public function __construct(private array $parameters, public array $all)
    {
    }

    public function find(string $id): ?Variant
    {
        foreach ($this->all as $variant) {
            if ($variant->id === $id) {
                return $variant;
            }
        }

        return null;
    }

    /**
     * Every parameter as a variant has it: its own override, or else that of the nearest variant it builds on, or else the
     * material's own value.
     *
     * @param string $id "" for the material as it is written
     *
     * @return array<string, Value> by the ids of parameters
     *
     * @throws InvalidDocument if there is no such variant
     */
    public function values(string $id): array
    {
        $values = [];
        for ($variant = $this->known($id); $variant !== null; $variant = $this->find($variant->base)) {
            $values += $variant->values;
        }
        foreach ($this->parameters as $parameter) {
            $values += [$parameter->id => $parameter->value];
        }

        return $values;
    }

    /**
     * The same by JSON Pointer to the parameter's number, which is where uniforms take it from.
     *
     * @return array<string, float>
     *
     * @throws InvalidDocument if there is no such variant
     */
    public function numbers(string $id): array
    {
        $values = $this->values($id);
        $numbers = [];
        foreach ($this->parameters as $parameter) {
            $numbers += $parameter->numbers($values[$parameter->id]);
        }

        return $numbers;
    }

    /**
     * The document of a material in which the parameters are what a variant makes of them.
     *
     * @param array<mixed> $document that these are the variants of
     *
     * @return array<mixed>
     *
     * @throws InvalidDocument if there is no such variant
     */
    public function applied(array $document, string $id): array
    {
        $values = $this->values($id);
        $parameters = \is_array($document['parameters'] ?? null) ? $document['parameters'] : [];
        foreach ($this->parameters as $i => $parameter) {
            $parameters[$i] = ['value' => $values[$parameter->id]] + (\is_array($parameters[$i] ?? null) ? $parameters[$i] : []);
        }

        return ['parameters' => $parameters] + $document;
    }

    private function known(string $id): ?Variant
    {
        return $id === '' ? null : $this->find($id)
            ?? throw InvalidDocument::at('/variants', \sprintf('there is no variant "%s"; the variants are %s', $id, implode(', ', array_column($this->all, 'id')) ?: 'none'));
    }
}
