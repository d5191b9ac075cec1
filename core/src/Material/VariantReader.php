<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** Reads the variants of a document. */
final readonly class VariantReader
{
    public const MOST = 64;

    /** @param array<int, Parameter> $parameters of the document */
    public function __construct(private Checks $checks, private array $parameters)
    {
    }

    public function read(mixed $data, string $path): Variants
    {
        $all = [];
        foreach ($this->checks->items($data, $path, 0, self::MOST) as $i => $one) {
            $all[$i] = $this->variant($one, "$path/$i");
        }

        return new Variants($this->parameters, $this->rooted($this->checks->unique(array_filter($all), $path)));
    }

    private function variant(mixed $data, string $path): ?Variant
    {
        $given = $this->checks->object($data, $path, ['id', 'name', 'base', 'values']);
        $id = $this->checks->id($given['id'] ?? null, "$path/id");
        $name = $this->checks->name($given['name'] ?? null, "$path/name");
        $base = ($given['base'] ?? '') === '' ? '' : $this->checks->id($given['base'], "$path/base");
        $known = array_column($this->parameters, null, 'id');
        $values = [];
        foreach ($this->checks->object($given['values'] ?? [], "$path/values", array_map(strval(...), array_keys($known))) as $parameter => $value) {
            if (isset($known[$parameter])) {
                $values[$parameter] = $this->checks->value($known[$parameter]->kind->control(), $value, "$path/values/$parameter");
            }
        }

        return $id === '' ? null : new Variant($path, $id, $name, $base, $values);
    }

    /**
     * Those that build on nothing that is missing, and never on themselves; the others stand on the material.
     *
     * @param array<int, Variant> $all
     *
     * @return array<int, Variant>
     */
    private function rooted(array $all): array
    {
        $bases = array_column($all, 'base', 'id');
        foreach ($all as $i => $variant) {
            $seen = [$variant->id];
            for ($base = $variant->base; $base !== ''; $base = $bases[$base] ?? '') {
                $objection = match (true) {
                    !isset($bases[$base]) => \sprintf('there is no variant "%s"; the variants are %s', $base, implode(', ', array_keys($bases))),
                    \in_array($base, $seen, true) => \sprintf('"%s" would build on itself: %s', $base, implode(' on ', [...$seen, $base])),
                    default => null,
                };
                if ($objection !== null) {
                    $this->checks->problem("$variant->path/base", $objection);
                    $bases[$variant->id] = '';
                    $all[$i] = new Variant($variant->path, $variant->id, $variant->name, '', $variant->values);
                    break;
                }
                $seen[] = $base;
            }
        }

        return $all;
    }
}
