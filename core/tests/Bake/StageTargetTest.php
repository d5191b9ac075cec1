<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Bake;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Bake\BakePart;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Glow;
use Rilta\Core\Bake\StageTarget;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Deliver\BakedLook;
use Rilta\Core\Deliver\GltfStage;
use Rilta\Core\Deliver\GltfTile;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Type;
use Rilta\Core\Format\GltfContainer;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\SurfaceKind;
use Rilta\Core\Mesh\Bvh;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\Meshes;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Mesh\ReadyMeshes;
use Rilta\Core\Stage\Placed;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Several objects in one file, with all that they wear. */
final class StageTargetTest extends TestCase
{
    private const OBJECT = ['id' => 'a', 'name' => 'A', 'mesh' => 'boulder', 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'seed' => 1, 'value' => 0];

    public function testWhatIsWornApartIsBakedApart(): void
    {
        $sections = array_values(array_unique(array_column(ReadyMade::Cube->mesh()->primitives, 'material')));
        $target = StageTarget::read(['objects' => [
            self::OBJECT,
            ['id' => 'b', 'mesh' => 'cube', 'sections' => [['section' => $sections[1], 'wears' => 7]]] + self::OBJECT,
            ['id' => 'c', 'wears' => 9, 'variant' => 'dry'] + self::OBJECT,
            ['id' => 'd', 'variant' => 'dry'] + self::OBJECT,
        ], 'set' => 2, 'places' => 4, 'variants' => ['wet', 'dry']], new ReadyMeshes());
        $told = array_map(static fn (BakePart $part): array => [$part->object, $part->section, $part->wear->material, $part->wear->variant, $part->variant], $target->parts);
        // All of the first in three ways; of the cube each section, one of them another material's; what wears a variant of its own is not switched.
        $expected = [[0, null, null, '', ''], [0, null, null, 'wet', 'wet'], [0, null, null, 'dry', 'dry']];
        foreach ($sections as $i => $section) {
            $expected[] = [1, $section, $i === 1 ? 7 : null, '', ''];
            foreach ($i === 1 ? [] : ['wet', 'dry'] as $variant) {
                $expected[] = [1, $section, null, $variant, $variant];
            }
        }
        self::assertSame([...$expected, [2, null, 9, 'dry', ''], [3, null, null, 'dry', '']], $told);
        $first = $target->target($target->parts[3]);
        self::assertSame(['b', 1, $sections[0], 2], [$first->object->id, $first->set, $first->section, $first->grid]);
        // What has no such set goes by its first.
        $bare = new class(new ReadyMeshes()) implements Meshes {
            public function __construct(private readonly ReadyMeshes $ready)
            {
            }

            public function names(): array
            {
                return $this->ready->names();
            }

            public function has(string $name): bool
            {
                return $this->ready->has($name);
            }

            public function mesh(string $name): Mesh
            {
                $mesh = $this->ready->mesh($name);

                return new Mesh(array_diff_key($mesh->attributes, ['TEXCOORD_1' => 1, 'TEXCOORD_2' => 1, 'TEXCOORD_3' => 1]), $mesh->indices, $mesh->primitives);
            }

            public function index(string $name): Bvh
            {
                return $this->ready->index($name);
            }
        };
        $other = StageTarget::read(['objects' => [self::OBJECT], 'set' => 2], $bare);
        self::assertSame(0, $other->target($other->parts[0])->set);
    }

    public function testMistakesAreNamedWithTheirPlaces(): void
    {
        $many = array_map(static fn (int $i): array => ['id' => "o$i"] + self::OBJECT, range(1, 257));
        foreach ([[[], ['/objects']], [['objects' => []], ['/objects']], [['objects' => $many], ['/objects']], [['objects' => [self::OBJECT], 'set' => 7, 'places' => 3], ['/set', '/places']], [['objects' => [self::OBJECT, ['mesh' => 'x', 'id' => 'b'] + self::OBJECT]], ['/objects/1/mesh']], [['objects' => [self::OBJECT], 'variants' => ['a', 'a', 3]], ['/variants/1', '/variants/2']], [['objects' => \array_slice($many, 0, 200), 'variants' => ['a', 'b']], ['/objects']]] as [$said, $paths]) {
            try {
                StageTarget::read($said, new ReadyMeshes());
                self::fail('It was read: ' . json_encode($paths));
            } catch (InvalidDocument $e) {
                self::assertSame($paths, array_column($e->problems, 'path'));
            }
        }
    }

    /** What lies in the file is found in it: meshes and images once, materials by section and by variant. */
    public function testTheFileSaysWhatIsWornWhere(): void
    {
        [$red, $green, $blue] = array_map(static fn (string $pixel): array => ['base-colour' => $pixel, 'normal' => "\x80\x80\xFF", 'roughness' => "\x80", 'metallic' => "\0", 'occlusion' => "\xFF"], ["\xFF\0\0", "\0\xFF\0", "\0\0\xFF"]);
        $cube = ReadyMade::Cube->mesh();
        $sections = array_values(array_unique(array_column($cube->primitives, 'material')));
        $file = new GltfStage(['wet' => 'Wet', 'dry' => 'Very dry']);
        $place = static fn (string $id, string $mesh): Placed => new Placed($id, strtoupper($id), $mesh, [1.0, 2.0, 3.0], [0.0, 90.0, 0.0], [1.0, 1.0, 2.0]);
        $stone = ReadyMade::Boulder->mesh();
        $file->add($place('a', 'boulder'), $stone, 1, [self::look('Rock', $red), self::look('Rock', $green, null, 'dry'), self::look('Rock', $blue, null, 'wet')]);
        $file->add($place('b', 'boulder'), $stone, 1, [self::look('Rock', $red), self::look('Rock', $green, null, 'wet'), self::look('Rock', $green, null, 'dry')]);
        $file->add($place('c', 'cube'), $cube, 1, [self::look('Brass', $red, $sections[2]), self::look('Lamp', $blue + ['emission' => "\xFF\x90\0"], $sections[4], '', 6.5)], str_repeat("\x40\x80\xC0\xFF", $cube->positions->count()));
        /** @var array{extensionsUsed: list<string>, extensions: array<string, array<string, mixed>>, scenes: list<array{nodes: list<int>}>, nodes: list<array{name: string, scale: list<float>}>, images: list<mixed>, materials: list<array{name: string, pbrMetallicRoughness: array<string, array{texCoord: int}>, emissiveTexture?: array{texCoord: int}, extensions?: array<string, mixed>}>, meshes: list<array{primitives: list<array{attributes: array<string, int>, material: int, extensions?: array<string, array{mappings: list<array{material: int, variants: list<int>}>}>}>}>} $read */
        $read = GltfContainer::open($file->bytes(), 'stage.glb')->json;

        self::assertSame(['KHR_materials_emissive_strength', 'KHR_materials_variants'], $read['extensionsUsed']);
        self::assertSame([['name' => 'Wet'], ['name' => 'Very dry']], $read['extensions']['KHR_materials_variants']['variants']);
        self::assertSame([[0, 1, 2], ['A', 'B', 'C'], [2.0, 2.0, 2.0]], [$read['scenes'][0]['nodes'], array_column($read['nodes'], 'name'), array_map(static fn (array $node): float => (float) $node['scale'][2], $read['nodes'])]);
        // Red, green, blue, the light, and one each of what is the same for all.
        self::assertCount(6, $read['images']);
        self::assertSame(['Rock', 'Rock', 'Rock', 'Brass', 'Lamp'], array_column($read['materials'], 'name'));
        [$first, $second, $third] = array_column($read['meshes'], 'primitives');
        self::assertSame($first[0]['attributes'], $second[0]['attributes'], 'the same vertices');
        self::assertSame(array_fill(0, \count($stone->primitives), [0, [[1, [1]], [2, [0]]]]), array_map(self::worn(...), $first));
        self::assertSame(array_fill(0, \count($stone->primitives), [0, [[1, [0, 1]]]]), array_map(self::worn(...), $second));
        self::assertSame([[3, []], [4, []]], array_map(self::worn(...), $third));
        self::assertSame([1, 1], [$read['materials'][0]['pbrMetallicRoughness']['baseColorTexture']['texCoord'], $read['materials'][4]['emissiveTexture']['texCoord'] ?? null]);
        self::assertSame(['emissiveStrength' => 6.5], ($read['materials'][4]['extensions'] ?? [])['KHR_materials_emissive_strength']);
        self::assertArrayNotHasKey('COLOR_0', $first[0]['attributes']);
        self::assertArrayHasKey('COLOR_1', $third[0]['attributes'], 'what was painted');
    }

    /** @param array<string, string> $rows */
    private static function look(string $name, array $rows, ?string $section = null, string $variant = '', float $glow = 1.0): BakedLook
    {
        return new BakedLook($name, 1, $rows, SurfaceKind::plain(), $glow, $section, $variant);
    }

    /**
     * @param array{material: int, extensions?: array<string, array{mappings: list<array{material: int, variants: list<int>}>}>} $primitive
     *
     * @return array{int, list<array{int, list<int>}>}
     */
    private static function worn(array $primitive): array
    {
        return [$primitive['material'], array_map(static fn (array $one): array => [$one['material'], $one['variants']], $primitive['extensions']['KHR_materials_variants']['mappings'] ?? [])];
    }

    /** Light above 1 comes out as it was: its image times what is told, in linear light; what is below stays as it would be. */
    public function testEmissionKeepsItsStrength(): void
    {
        mt_srand(5);
        foreach ([0.7, 1.0, 3.0, 40.0, 900.0] as $most) {
            $light = [];
            for ($i = 0; $i < 300; ++$i) {
                $light[] = $i === 7 ? $most : $most * (mt_rand() / mt_getrandmax()) ** 3;
            }
            $g = new Graph();
            $program = Kernels::compiler()->compile($g, ['deep' => Glow::deep($g, $g->input('light', Type::Vec3))], ['light' => Binding::wide(3)]);
            [$image, $times] = Glow::image(Glow::bytes($program->run([], [], ['light' => $light], 0, 0, 100, 1)['deep']));
            self::assertSame(300, \strlen($image));
            self::assertEqualsWithDelta(max(1.0, $most), $times, 2e-3 * $most);
            foreach ($light as $i => $value) {
                $code = 255 * Srgb::fromLinear($value / max(1.0, $most));
                self::assertEqualsWithDelta($code, \ord($image[$i]), 0.6, "$value of $most");
            }
        }
        $maps = TestMaps::noise();
        $document = Documents::of([Documents::step('origin', ['space' => 'mesh', 'uvSet' => 'first'])]);
        $document['layers'][0]['finish'] = ['values' => ['glow' => [1.0, 0.5, 0.25], 'glowStrength' => 400.0]];
        $lowered = Lowering::lower(Documents::reader()->read($document), $maps, true);
        $job = new TileBake($lowered, 8, Kernels::compiler());
        $rows = $job->region($maps, 0, 8);
        $kept = [];
        $verdict = $job->complete(static fn (Channel $c): string => $rows[$c->value], static function (Channel $c, string $bytes) use (&$kept): void {
            $kept[$c->value] = $bytes;
        });
        self::assertEqualsWithDelta(4.0, $verdict->glow, 1e-3);
        self::assertSame(255, \ord($kept['emission'][0]));
        self::assertEqualsWithDelta(255 * Srgb::fromLinear(Srgb::toLinear(0.5)), \ord($kept['emission'][1]), 0.6);
        self::assertStringContainsString('"emissiveStrength":' . json_encode($verdict->glow), GltfTile::bytes('Lamp', ReadyMade::Cube, [[new BakedLook('Lamp', 8, $kept, $lowered->cover, $verdict->glow), $job->tile]]));
    }
}
