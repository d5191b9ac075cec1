<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Material\Checks;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Mesh\Meshes;
use Rilta\Core\Mesh\Primitive;
use Rilta\Core\Stage\Copies;
use Rilta\Core\Stage\Placed;
use Rilta\Core\Stage\Stage;
use Rilta\Core\Stage\Wear;

/**
 * Several objects of a stage, each of which what it wears is baked into, for one file.
 *
 * @phpstan-import-type StageObjectJson from Copies
 *
 * @phpstan-type StageTargetJson array{
 *     objects: list<StageObjectJson>, // each with what it wears
 *     set?: int<1, 4>,
 *     places?: 1|4|9|16,
 *     variants?: list<string>, // ids of those that the file can be switched to
 * }
 */
final readonly class StageTarget
{
    public const MOST_OBJECTS = 256;
    public const MOST_PARTS = 512;
    /** Of all pictures together. */
    public const MOST_TEXELS = 67108864;

    /**
     * @param non-empty-list<Placed>   $objects
     * @param int                      $places   that a texel is looked at
     * @param list<int>                $sets     of UVs, by object
     * @param list<string>             $variants ids of those of the open material that the file can be switched to
     * @param non-empty-list<BakePart> $parts    in the order of the objects
     */
    private function __construct(public array $objects, private int $places, private array $sets, public array $variants, public array $parts)
    {
    }

    /**
     * Some as requests have them: "objects" as stages have them, "set" from 1 on (the first where a mesh has no such set), "places", "variants".
     *
     * @throws InvalidDocument that says where something else was expected
     */
    public static function read(mixed $said, Meshes $meshes): self
    {
        $checks = new Checks();
        $data = $checks->object($said, '', ['objects', 'set', 'places', 'variants']);
        $objects = $checks->items($data['objects'] ?? null, '/objects', 1, self::MOST_OBJECTS);
        $variants = [];
        foreach ($checks->items($data['variants'] ?? [], '/variants', 0, self::MOST_PARTS) as $i => $one) {
            if (!\is_string($one) || $one === '' || \in_array($one, $variants, true)) {
                $checks->problem("/variants/$i", \sprintf('expected ids of variants, each once, found %s', Checks::show($one)));
            } else {
                $variants[] = $one;
            }
        }
        if ($checks->problems() !== []) {
            throw new InvalidDocument($checks->problems());
        }
        $stage = Stage::read(['format' => Stage::FORMAT, 'objects' => $objects], $meshes);
        $first = $stage->objects[0] ?? throw InvalidDocument::at('/objects', 'expected an object at least');
        $how = ['set' => $data['set'] ?? 1, 'places' => $data['places'] ?? 1];
        // What is said of the whole is looked at where an object alone has it.
        MeshTarget::read(['object' => $objects[0]] + $how, $meshes);
        $wanted = \is_int($how['set']) ? $how['set'] - 1 : 0;
        $parts = $sets = [];
        foreach ($stage->objects as $i => $object) {
            $sets[] = isset($meshes->mesh($object->mesh)->attributes["TEXCOORD_$wanted"]) ? $wanted : 0;
            array_push($parts, ...self::of($object, $i, $meshes, $variants));
        }
        if (\count($parts) > self::MOST_PARTS || $parts === []) {
            throw InvalidDocument::at('/objects', \sprintf('expected objects whose sections and variants make at most %d bakes, found %d', self::MOST_PARTS, \count($parts)));
        }

        return new self([$first, ...\array_slice($stage->objects, 1)], \is_int($how['places']) ? $how['places'] : 1, $sets, $variants, $parts);
    }

    /** Where a part is baked. */
    public function target(BakePart $part): MeshTarget
    {
        return new MeshTarget($this->objects[$part->object], $this->sets[$part->object], $part->section, (int) sqrt($this->places));
    }

    /**
     * @param list<string> $variants
     *
     * @return list<BakePart>
     */
    private static function of(Placed $object, int $number, Meshes $meshes, array $variants): array
    {
        $sections = array_values(array_unique(array_map(static fn (Primitive $part): string => $part->material, $meshes->mesh($object->mesh)->primitives)));
        $worn = array_map($object->worn(...), $sections);
        // Where all of it wears the same, it is one.
        $wears = array_unique($worn, \SORT_REGULAR);
        $looks = \count($wears) === 1 ? [[null, $worn[0]]] : array_map(static fn (string $section): array => [$section, $object->worn($section)], $sections);
        $parts = [];
        foreach ($looks as [$section, $wear]) {
            $parts[] = new BakePart($number, $section, $wear);
            foreach ($wear->material === null && $wear->variant === '' ? $variants : [] as $variant) {
                $parts[] = new BakePart($number, $section, new Wear(null, $variant), $variant);
            }
        }

        return $parts;
    }
}
