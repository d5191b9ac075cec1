<?php

declare(strict_types=1);

namespace Rilta\Core\Target\C;

use Rilta\Core\Target\Program;

/** A compiled program in C. */
final class CProgram implements Program
{
    private const CHUNK = 65536;

    /** @var array<string, array{array<int, int>|\ArrayAccess<int, int>, \FFI\CData}> texels as C has them, by map */
    private array $texels = [];

    /**
     * @param list<string>       $uniforms in the order in which it takes them
     * @param list<string>       $maps     in the order in which it takes them
     * @param list<string>       $inputs   in the order in which it takes them
     * @param array<string, int> $outputs  the number of components of each output, in order
     * @param list<bool>         $whole    for each component, whether it is a whole number
     */
    public function __construct(private readonly \FFI $library, private readonly array $uniforms, private readonly array $maps, private readonly array $inputs, private readonly array $outputs, private readonly array $whole)
    {
    }

    public function run(array $uniforms, array $maps, array $inputs, int $x0, int $y0, int $x1, int $y1): array
    {
        $count = max(0, $x1 - $x0) * max(0, $y1 - $y0);
        $numbers = $this->filled('double', 'd*', array_map(static fn (string $name): float|int => $uniforms[$name] ?? throw new \InvalidArgumentException("There is no number for the uniform $name."), $this->uniforms));
        $texels = $this->pointers('uint32_t', array_map(fn (string $name): \FFI\CData => $this->texels($name, $maps[$name] ?? throw new \InvalidArgumentException("There are no texels for $name.")), $this->maps));
        $in = array_map(fn (string $name): \FFI\CData => $this->filled('double', 'd*', $inputs[$name] ?? throw new \InvalidArgumentException("There are no numbers for the input $name.")), $this->inputs);
        $out = array_map(fn (bool $whole): \FFI\CData => $this->array($whole ? 'uint32_t' : 'double', $count), $this->whole);
        // @phpstan-ignore method.notFound (a function of the library)
        $this->library->rilta_run($numbers, $texels, $this->pointers('double', $in), $this->pointers('void', $out), $x0, $y0, $x1, $y1);
        $named = [];
        $at = 0;
        foreach ($this->outputs as $name => $width) {
            for ($c = 0; $c < $width; ++$c, ++$at) {
                /** @var list<float|int> $values */
                $values = $count === 0 ? [] : array_values(unpack($this->whole[$at] ? 'V*' : 'd*', \FFI::string($this->as('char', $out[$at]), ($this->whole[$at] ? 4 : 8) * $count)) ?: []);
                $named[$name][] = $values;
            }
        }

        return $named;
    }

    /** @param array<int, int>|\ArrayAccess<int, int> $texels */
    private function texels(string $name, array|\ArrayAccess $texels): \FFI\CData
    {
        // The same list is the same texels: comparing a list with itself takes no time.
        if (!isset($this->texels[$name]) || $this->texels[$name][0] !== $texels) {
            /** @var array<int, int> $list */
            $list = \is_array($texels) ? $texels : iterator_to_array($texels instanceof \Traversable ? $texels : throw new \InvalidArgumentException('Texels that cannot be listed.'));
            $this->texels[$name] = [$texels, $this->filled('uint32_t', 'V*', $list)];
        }

        return $this->texels[$name][1];
    }

    private function array(string $type, int $count): \FFI\CData
    {
        return $this->library->new("{$type}[" . max(1, $count) . ']') ?? throw new \RuntimeException('There is no memory for numbers.');
    }

    /** @param array<int, float|int> $values */
    private function filled(string $type, string $format, array $values): \FFI\CData
    {
        $bytes = '';
        for ($from = 0, $count = \count($values); $from < $count; $from += self::CHUNK) {
            $bytes .= pack($format, ...\array_slice($values, $from, self::CHUNK));
        }
        $array = $this->array($type, \count($values));
        \FFI::memcpy($array, $bytes, \strlen($bytes));

        return $array;
    }

    private function as(string $type, \FFI\CData $array): \FFI\CData
    {
        return $this->library->cast("$type *", \FFI::addr($array)) ?? throw new \RuntimeException("No $type.");
    }

    /** @param list<\FFI\CData> $arrays */
    private function pointers(string $type, array $arrays): \FFI\CData
    {
        $pointers = $this->library->new("$type *[" . max(1, \count($arrays)) . ']') ?? throw new \RuntimeException('There is no memory for numbers.');
        foreach (array_values($arrays) as $n => $array) {
            $pointers[$n] = $this->as($type, $array); // @phpstan-ignore offsetAccess.nonOffsetAccessible (an array of C)
        }

        /** @var \FFI\CData $pointers */
        return $pointers;
    }
}
