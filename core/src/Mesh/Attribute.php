<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/** Numbers of the vertices of a mesh: one to four of each, in single precision, as glTF and devices have them. */
final readonly class Attribute
{
    /** Of a vertex. */
    public int $stride;

    /**
     * @param int    $width numbers a vertex
     * @param string $bytes little-endian, four a number
     */
    public function __construct(public int $width, public string $bytes)
    {
        $this->stride = 4 * $width;
        if ($width < 1 || $width > 4 || \strlen($bytes) % $this->stride !== 0) {
            throw new \InvalidArgumentException(\sprintf('%d bytes are no attribute of %d numbers a vertex.', \strlen($bytes), $width));
        }
    }

    /** @param list<float> $numbers those of all vertices, one after another */
    public static function of(int $width, array $numbers): self
    {
        $bytes = '';
        foreach (array_chunk($numbers, 60000) as $some) {
            $bytes .= pack('g*', ...$some);
        }

        return new self($width, $bytes);
    }

    public function count(): int
    {
        return intdiv(\strlen($this->bytes), $this->stride);
    }

    /** @return list<float> */
    public function at(int $vertex): array
    {
        /** @var array<int, float> $numbers */
        $numbers = unpack("g$this->width", $this->bytes, $this->stride * $vertex) ?: [];

        return array_values($numbers);
    }

    /** @return array{float, float, float} of an attribute that is three wide */
    public function triple(int $vertex): array
    {
        /** @var array{x: float, y: float, z: float} $one */
        $one = unpack('gx/gy/gz', $this->bytes, 12 * $vertex);

        return [$one['x'], $one['y'], $one['z']];
    }

    /** @return list<array{float, float, float}> those of all vertices of an attribute that is three wide */
    public function triples(): array
    {
        $numbers = $this->numbers();
        $triples = [];
        for ($i = 0, $n = \count($numbers); $i < $n; $i += 3) {
            $triples[] = [$numbers[$i], $numbers[$i + 1], $numbers[$i + 2]];
        }

        return $triples;
    }

    /** @return list<float> those of all vertices */
    public function numbers(): array
    {
        /** @var array<int, float> $numbers */
        $numbers = unpack('g*', $this->bytes) ?: [];

        return array_values($numbers);
    }
}
