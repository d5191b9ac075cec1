<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/** A part of a mesh as a file has it: in the file's units, maybe without normals. */
final readonly class Piece
{
    /**
     * @param string                $material what its faces are made of; "" if the file does not say
     * @param string                $indices  unsigned, little-endian, four bytes each, three a triangle
     * @param array<int, Attribute> $uvs      by set, the origin at the upper left
     * @param ?Attribute            $colours  red, green, blue and alpha, 0…1, linear
     */
    public function __construct(
        public string $material,
        public Attribute $positions,
        public string $indices,
        public ?Attribute $normals = null,
        public array $uvs = [],
        public ?Attribute $colours = null,
    ) {
    }
}
