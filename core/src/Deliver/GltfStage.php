<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Format\GlbFile;
use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\Tangents;
use Rilta\Core\Stage\Placed;

/**
 * Objects with what was baked into their UVs, as one binary glTF 2.0 file: where they stand on their stage, with all their sets of UVs, and what
 * they wear in variants (KHR_materials_variants).
 */
final class GltfStage
{
    private readonly GlbFile $file;

    /** @var array<string, Mesh> by mesh, set, sections and paint */
    private array $split = [];

    /**
     * @param array<string, string> $variants names, by id
     */
    public function __construct(private readonly array $variants = [])
    {
        $this->file = new GlbFile(array_values($variants));
    }

    /**
     * An object. Sections of it that nothing was baked for are left out: nothing is known of them.
     *
     * @param int                       $set   of UVs that it was baked into
     * @param non-empty-list<BakedLook> $looks
     * @param string                    $paint what was painted on it, four bytes a vertex; "" for nothing
     */
    public function add(Placed $object, Mesh $mesh, int $set, array $looks, string $paint = ''): void
    {
        $sections = array_map(static fn (BakedLook $look): ?string => $look->section, $looks);
        $whole = \in_array(null, $sections, true);
        $only = $whole ? [] : array_unique(array_filter($sections, \is_string(...)));
        $split = $this->split[implode("\0", [$object->mesh, $set, hash('xxh128', $paint), ...$only])] ??= Tangents::split(self::coloured($whole ? $mesh : $mesh->only(...$only), $paint), $set);
        $numbers = array_map(fn (BakedLook $look): int => $this->file->material(...GltfMaterial::of($look->name, $look->size, $look->rows, $look->cover, $set === 0 ? [] : ['texCoord' => $set], $look->glow)), $looks);
        $places = array_flip(array_keys($this->variants));
        $materials = $worn = [];
        foreach ($split->primitives as $part) {
            $all = array_filter($looks, static fn (BakedLook $look): bool => \in_array($look->section, [null, $part->material], true));
            $also = [];
            foreach ($all as $k => $look) {
                if ($look->variant === '') {
                    $standing = $numbers[$k];
                } else {
                    $also[$numbers[$k]][] = $places[$look->variant];
                }
            }
            $materials[] = $standing ?? throw new \LogicException('A section that is worn in variants alone.');
            $worn[] = $also;
        }
        $this->file->add($split, $object->name, $materials, ['translation' => $object->position, 'rotation' => $object->quaternion(), 'scale' => $object->scale], $worn);
    }

    public function bytes(): string
    {
        return $this->file->bytes();
    }

    /**
     * What was painted, or else the colours of the file that it came from, as the second colours of its vertices: by the first, readers multiply
     * what it wears, so they are white.
     */
    private static function coloured(Mesh $mesh, string $paint): Mesh
    {
        $coloured = $mesh->painted($paint) ?? $mesh;

        return isset($coloured->attributes['COLOR_0'])
            ? $coloured->with('COLOR_1', $coloured->attributes['COLOR_0'])->with('COLOR_0', Attribute::of(4, array_fill(0, 4 * $mesh->positions->count(), 1.0)))
            : $coloured;
    }
}
