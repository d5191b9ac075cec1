<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** What could be read of a document that has mistakes: the rest is left out, or stands at its default. */
final readonly class PartialRead
{
    /**
     * @param list<Problem>                                    $problems
     * @param array<string, array{float, float, bool, ?float}> $numbers  least, most, whether it is whole, and what stands in for it, of all numbers that it holds, by JSON Pointer
     * @param array<string, string>                            $rising   columns whose numbers have to grow from row to row, by JSON Pointer to the rows
     * @param array<string, Control\Control>                   $controls what values are read by, whether they are there or left out, by JSON Pointer
     */
    public function __construct(public Material $material, public array $problems, public array $numbers = [], public array $rising = [], public array $controls = [])
    {
    }
}
