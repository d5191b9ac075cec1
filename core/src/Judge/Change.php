<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

/** A change of a document, as RFC 6902 (JSON Patch) writes it: values added, replaced or removed. */
final readonly class Change
{
    /** @param list<array{op: 'add'|'replace'|'remove', path: string, value?: mixed}> $operations in their order */
    private function __construct(public array $operations)
    {
    }

    public static function none(): self
    {
        return new self([]);
    }

    /** What stands at a place, or is left out there, is another. */
    public function put(string $path, mixed $value): self
    {
        return new self([...$this->operations, ['op' => 'replace', 'path' => $path, 'value' => $value]]);
    }

    /** A value comes in at a place of a list, before what stands there; "-" in place of a number is its end. */
    public function add(string $path, mixed $value): self
    {
        return new self([...$this->operations, ['op' => 'add', 'path' => $path, 'value' => $value]]);
    }

    public function remove(string $path): self
    {
        return new self([...$this->operations, ['op' => 'remove', 'path' => $path]]);
    }

    /** This one, and then another. */
    public function and(self $other): self
    {
        return new self([...$this->operations, ...$other->operations]);
    }

    /**
     * @param array<mixed> $document
     *
     * @return array<mixed> another document
     */
    public function applied(array $document): array
    {
        foreach ($this->operations as $operation) {
            $document = self::one($document, \array_slice(explode('/', $operation['path']), 1), $operation);
        }

        return $document;
    }

    /**
     * @param array<mixed>                                   $data
     * @param list<string>                                   $keys
     * @param array{op: string, path: string, value?: mixed} $operation
     *
     * @return array<mixed>
     */
    private static function one(array $data, array $keys, array $operation): array
    {
        $key = strtr($keys[0] ?? '', ['~1' => '/', '~0' => '~']);
        if (\count($keys) > 1) {
            $inner = $data[$key] ?? [];
            $data[$key] = self::one(\is_array($inner) ? $inner : (array) $inner, \array_slice($keys, 1), $operation);

            return $data;
        }
        if ($operation['op'] === 'add' && array_is_list($data)) {
            array_splice($data, $key === '-' ? \count($data) : (int) $key, 0, [$operation['value'] ?? null]);

            return $data;
        }
        if ($operation['op'] !== 'remove') {
            $data[$key] = $operation['value'] ?? null;

            return $data;
        }
        $list = array_is_list($data);
        unset($data[$key]);

        return $list ? array_values($data) : $data;
    }
}
