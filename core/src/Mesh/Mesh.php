<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/**
 * Triangles between vertices that have named attributes, as glTF 2.0 has them: POSITION in metres, NORMAL of length 1, TEXCOORD_0 …
 * with the origin at the upper left, and our own that begin with an underscore; corners counter-clockwise seen from outside. A vertex
 * belongs to one primitive only, so that what is the same all over a triangle can be said of any of its corners.
 */
final readonly class Mesh
{
    public Attribute $positions;

    public int $triangles;

    /**
     * @param array<string, Attribute> $attributes by name, each of as many vertices
     * @param string                   $indices    unsigned, little-endian, four bytes each, three a triangle
     * @param list<Primitive>          $primitives all triangles, in their order
     */
    public function __construct(public array $attributes, public string $indices, public array $primitives)
    {
        $this->positions = $attributes['POSITION'] ?? throw new \InvalidArgumentException('A mesh needs positions.');
        $this->triangles = intdiv(\strlen($indices), 12);
        foreach ($attributes as $name => $attribute) {
            if ($attribute->count() !== $this->positions->count()) {
                throw new \InvalidArgumentException(\sprintf('%s is of %d vertices, positions are of %d.', $name, $attribute->count(), $this->positions->count()));
            }
        }
        if (array_sum(array_column($primitives, 'count')) !== $this->triangles) {
            throw new \InvalidArgumentException('The primitives are not all of the triangles.');
        }
    }

    /** The same vertices with another attribute, or with others in its place. */
    public function with(string $name, Attribute $attribute): self
    {
        return new self([$name => $attribute] + $this->attributes, $this->indices, $this->primitives);
    }

    /**
     * With what was painted on it as the colours of its vertices.
     *
     * @param string $paint four bytes a vertex
     *
     * @return ?self null if it has other vertices
     */
    public function painted(string $paint): ?self
    {
        if (\strlen($paint) !== 4 * $this->positions->count()) {
            return null;
        }
        $colours = [];
        for ($i = 0, $n = \strlen($paint); $i < $n; ++$i) {
            $colours[] = \ord($paint[$i]) / 255;
        }

        return $this->with('COLOR_0', Attribute::of(4, $colours));
    }

    /** @return array{int, int, int} the vertices of a triangle */
    public function corners(int $triangle): array
    {
        /** @var array{a: int, b: int, c: int} $one */
        $one = unpack('Va/Vb/Vc', $this->indices, 12 * $triangle);

        return [$one['a'], $one['b'], $one['c']];
    }

    /** The same vertices with the triangles of some sections alone. */
    public function only(string ...$sections): self
    {
        $indices = '';
        $primitives = [];
        foreach ($this->primitives as $part) {
            if (\in_array($part->material, $sections, true)) {
                $primitives[] = new Primitive($part->material, intdiv(\strlen($indices), 12), $part->count);
                $indices .= substr($this->indices, 12 * $part->first, 12 * $part->count);
            }
        }

        return new self($this->attributes, $indices, $primitives);
    }

    /** What the section of a triangle is called. */
    public function section(int $triangle): string
    {
        foreach ($this->primitives as $part) {
            if ($triangle < $part->first + $part->count) {
                return $part->material;
            }
        }

        throw new \OutOfRangeException("There is no triangle $triangle.");
    }
}
