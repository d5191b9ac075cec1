<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Stage;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Library\Light;
use Rilta\Core\Field\Library\Sky;
use Rilta\Core\Field\Library\SkyKind;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\ReadyMeshes;
use Rilta\Core\Stage\Copies;
use Rilta\Core\Stage\Lighting;
use Rilta\Core\Stage\Paints;
use Rilta\Core\Stage\Placed;
use Rilta\Core\Stage\RayCast;
use Rilta\Core\Stage\Stage;
use Rilta\Core\Stage\Wear;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\LaneReading;

final class StageTest extends TestCase
{
    public function testTheFirstStageShowsOneMeshAtThreeScalesASphereAndAFloor(): void
    {
        $stage = Stage::read(Stage::first());
        $cubes = array_values(array_filter($stage->objects, static fn (Placed $o): bool => $o->mesh === 'cube'));
        self::assertSame([[1.0, 1.0, 1.0], [3.0, 1.0, 1.0], [1.0, 0.5, 2.0]], array_map(static fn (Placed $o): array => $o->scale, $cubes));
        self::assertEqualsCanonicalizing(['cube', 'cube', 'cube', 'floor', 'sphere'], array_map(static fn (Placed $o): string => $o->mesh, $stage->objects));
    }

    /** What the page fills its uniforms with: at a sky's own numbers they are its own. */
    public function testTheNumbersOfALightAreTheFieldsOfItsSky(): void
    {
        foreach (SkyKind::cases() as $kind) {
            $own = ['colour/0' => 1.0, 'colour/1' => 1.0, 'colour/2' => 1.0];
            foreach (Lighting::controls($kind) as $control) {
                if (\is_float($control->default())) {
                    $own[$control->name()] = $control->default();
                }
            }
            $found = Lighting::prelude($kind)->values($own);
            foreach (['sun', 'sunColour', 'sunStrength', 'brightness'] as $field) {
                foreach (Sky::numbers($kind)[$field] as $i => $number) {
                    self::assertEqualsWithDelta($number, $found["$field/$i"], 1e-12, "$kind->value, $field");
                }
            }
            self::assertEqualsWithDelta(Light::EXPOSURE, $found['exposure'], 1e-12);
            $other = Lighting::prelude($kind)->values(['turn' => 90.0, 'height' => 30.0, 'strength' => 2.0, 'colour/0' => 0.5, 'brightness' => 50.0, 'exposure' => 2.0] + $own);
            self::assertEqualsWithDelta([cos(\M_PI / 6), 0.5, 0.0], [$other['sun/0'], $other['sun/1'], $other['sun/2']], 1e-12);
            self::assertEqualsWithDelta([2.0, 0.5, 4 * Light::EXPOSURE, 0.5 * $kind->sun()['colour'][0]], [$other['sunStrength/0'], $other['brightness/0'], $other['exposure'], $other['sunColour/0']], 1e-12);
        }
    }

    public function testStagesOfTheFirstVersionAreReadAndLightIsKept(): void
    {
        self::assertCount(5, Stage::read(['format' => 'rilta-stage/1'] + Stage::first())->objects);
        self::assertCount(5, Stage::read(['light' => ['sky' => 'overcast', 'turn' => -30, 'height' => 12.5, 'exposure' => 0.5, 'colour' => [1, 0.9, 0.8], 'shown' => false]] + Stage::first())->objects);
        $this->expectExceptionMessage('/format: expected "rilta-stage/2"');
        Stage::read(['format' => 'rilta-stage/3'] + Stage::first());
    }

    public function testALineOfSightMeetsTheNearestObject(): void
    {
        $stage = Stage::read(['format' => Stage::FORMAT, 'objects' => [
            ['id' => 'near', 'name' => 'Near', 'mesh' => 'cube', 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [2, 2, 2]],
            ['id' => 'far', 'name' => 'Far', 'mesh' => 'cube', 'position' => [0, 0, -5], 'turn' => [0, 0, 0], 'scale' => [9, 9, 1]],
        ]]);
        $seen = RayCast::along($stage, [0.25, 0.75, 5.0], [[0.0, 0.0, -1.0], [0.01, 0.0, -1.0], [0.0, -0.01, -1.0]]);
        self::assertNotNull($seen);
        [$object, $point] = $seen;
        self::assertSame('near', $object->id);
        self::assertEqualsWithDelta([0.25, 0.75, 1.0], $point->inputs['position'], 1e-9);
        self::assertEqualsWithDelta([0.0, 0.0, 1.0], $point->inputs['normal'], 1e-9);
        // One pixel is 0.01 of the distance of 4 m; the cube's UV runs once over its two metres, v downwards from 2 m.
        self::assertEqualsWithDelta([0.04, 0.0, 0.0], $point->inputs['dpdx'], 1e-9);
        self::assertEqualsWithDelta([0.0, -0.04, 0.0], $point->inputs['dpdy'], 1e-9);
        self::assertEqualsWithDelta([0.625, 0.625], $point->inputs['uv'], 1e-9);
        self::assertEqualsWithDelta([0.02, 0.0], $point->inputs['uvDx'], 1e-9);
        self::assertEqualsWithDelta([0.0, 0.02], $point->inputs['uvDy'], 1e-9);
        self::assertNull(RayCast::along($stage, [0.0, 0.0, 5.0], [[0.0, 0.0, 1.0], [0.01, 0.0, 1.0], [0.0, 0.01, 1.0]]), 'looking away');
    }

    public function testTheObjectsFrameStaysRigidHoweverItIsScaled(): void
    {
        $placed = new Placed('a', 'A', 'cube', [1.0, 2.0, 3.0], [30.0, 40.0, 50.0], [3.0, 0.5, 2.0]);
        foreach ([[0, 1], [1, 2], [2, 0]] as [$a, $b]) {
            self::assertEqualsWithDelta(1.0, Vec::length($placed->axes[$a]), 1e-12);
            self::assertEqualsWithDelta(0.0, Vec::dot($placed->axes[$a], $placed->axes[$b]), 1e-12);
        }
        self::assertEqualsWithDelta($placed->axes[2], Vec::cross($placed->axes[0], $placed->axes[1]), 1e-12, 'right-handed');
        $turned = new Placed('a', 'A', 'cube', [0.0, 0.0, 0.0], [0.0, 90.0, 0.0], [1.0, 1.0, 1.0]);
        self::assertEqualsWithDelta([0.0, 0.0, -1.0], $turned->point([1.0, 0.0, 0.0]), 1e-12, 'a turn about y takes x to -z');
    }

    public function testAScaledCubeStretchesMeshUvAndNoProjection(): void
    {
        $stage = Stage::read(Stage::first());
        // Repeats per metre to the right on the front of the cubes of width 1 and 3.
        $density = static function (string $space, float $x) use ($stage): float {
            $seen = RayCast::along($stage, [$x, 0.5, 5.0], [[0.0, 0.0, -1.0], [0.001, 0.0, -1.0], [0.0, -0.001, -1.0]]);
            self::assertNotNull($seen);
            $tap = LaneReading::heaviest([Documents::step('origin', ['space' => $space]), Documents::step('size', ['u' => 0.5])], $seen[1]);

            return $tap['dx'][0] / $seen[1]->inputs['dpdx'][0];
        };
        self::assertEqualsWithDelta([2.0, 2 / 3], [$density('mesh', -3.0), $density('mesh', -1.0)], 1e-9);
        self::assertEqualsWithDelta([2.0, 2.0], [$density('world', -3.0), $density('world', -1.0)], 1e-9);
        self::assertEqualsWithDelta([2.0, 2.0], [$density('object', -3.0), $density('object', -1.0)], 1e-9);
    }

    public function testNeighboursLineUpInTheWorldAndObjectsTakeTheirOwnPatternAlong(): void
    {
        $u = static function (string $space, float $x, float $moved): float {
            $first = Stage::first();
            $objects = $first['objects'];
            self::assertIsArray($objects);
            $cube = ['id' => 'wide', 'name' => 'Wide', 'mesh' => 'cube', 'position' => [-1.0 + $moved, 0, 0], 'turn' => [0, 0, 0], 'scale' => [3, 1, 1]];
            $seen = RayCast::along(Stage::read(['format' => Stage::FORMAT, 'objects' => [$objects[1], $cube]]), [$x, 0.5, 5.0], [[0.0, 0.0, -1.0], [0.001, 0.0, -1.0], [0.0, -0.001, -1.0]]);
            self::assertNotNull($seen);

            return LaneReading::heaviest([Documents::step('origin', ['space' => $space])], $seen[1])['uv'][0];
        };
        // The two cubes meet at x = -2.5.
        self::assertEqualsWithDelta(0.002, $u('world', -2.499, 0.0) - $u('world', -2.501, 0.0), 1e-9, 'no jump from one to the other');
        self::assertEqualsWithDelta($u('world', -1.0, 0.0), $u('world', -1.0, 0.25), 1e-9, 'the world stays when the cube moves');
        self::assertEqualsWithDelta($u('object', -1.0, 0.0), $u('object', -0.75, 0.25), 1e-9, 'the object takes its pattern along');
    }

    public function testNormalsStandOnScaledSurfaces(): void
    {
        $placed = new Placed('a', 'A', 'sphere', [0.0, 0.0, 0.0], [10.0, 20.0, 30.0], [3.0, 0.5, 2.0]);
        $n = $placed->normal(Vec::unit([1.0, 2.0, -1.0]));
        foreach ([[2.0, -1.0, 0.0], [1.0, 0.0, 1.0]] as $tangent) {
            self::assertEqualsWithDelta(0.0, Vec::dot($n, $placed->direction($tangent)), 1e-12);
        }
    }

    public function testCopiesStandInAGridEachALittleElsewhereAndWithASeedOfItsOwn(): void
    {
        $block = new Placed('block', 'Block', 'cube', [1.0, 0.0, -2.0], [0.0, 30.0, 0.0], [1.0, 2.0, 1.0], 5, 0.5, 'worn', wears: 12, sections: ['Top' => new Wear(7), 'Front' => new Wear(null, 'wet')]);
        $exact = Copies::grid($block, [3, 2, 1], [1.5, 2.0, 4.0], 0.0, 0.0, 0.0, 1, ['block', 'block-3']);
        self::assertSame([[2.5, 0.0, -2.0], [4.0, 0.0, -2.0], [1.0, 2.0, -2.0], [2.5, 2.0, -2.0], [4.0, 2.0, -2.0]], array_column($exact, 'position'));
        self::assertSame(['block-2', 'block-4', 'block-5', 'block-6', 'block-7'], array_column($exact, 'id'));
        self::assertSame([[0.0, 30.0, 0.0]], array_values(array_unique(array_column($exact, 'turn'), \SORT_REGULAR)));
        self::assertCount(5, array_unique(array_column($exact, 'seed')));
        self::assertSame([[0.5], ['worn']], [array_values(array_unique(array_column($exact, 'value'))), array_values(array_unique(array_column($exact, 'variant')))]);

        $loose = Copies::grid($block, [10, 1, 10], [1.5, 0.0, 1.5], 0.2, 10.0, 20.0, 7, []);
        self::assertCount(99, $loose);
        self::assertEquals($loose, Copies::grid($block, [10, 1, 10], [1.5, 0.0, 1.5], 0.2, 10.0, 20.0, 7, []));
        self::assertNotEquals($loose, Copies::grid($block, [10, 1, 10], [1.5, 0.0, 1.5], 0.2, 10.0, 20.0, 8, []));
        [$aside, $turned, $sizes] = [[], [], []];
        foreach ($loose as $i => $one) {
            $aside[] = $one->position[0] - 1.0 - 1.5 * (($i + 1) % 10);
            $turned[] = $one->turn[1] - 30.0;
            $sizes[] = $one->scale[0];
            self::assertEqualsWithDelta(2.0, $one->scale[1] / $one->scale[0], 1e-12);
        }
        foreach ([[$aside, 0.2, 0.0], [$turned, 10.0, 0.0], [$sizes, 0.2, 1.0]] as [$found, $most, $middle]) {
            \assert($found !== []);
            self::assertLessThanOrEqual($most, max(array_map(static fn (float $by): float => abs($by - $middle), $found)));
            self::assertGreaterThan(1.7 * $most, max($found) - min($found));
            self::assertEqualsWithDelta($middle, array_sum($found) / \count($found), 0.2 * $most);
        }
        $again = Stage::read(['format' => Stage::FORMAT, 'objects' => [Copies::document($exact[0])]])->objects[0];
        self::assertEquals([$block->sections, new Wear(7), new Wear(null, 'wet'), new Wear(12, 'worn')], [$again->sections, $again->worn('Top'), $again->worn('Front'), $again->worn('Back')]);
        self::assertSame([12], array_values(array_unique(array_column(array_map(Copies::document(...), $exact), 'wears'), \SORT_REGULAR)));
        // What they come to is a stage again.
        self::assertCount(5, Stage::read(['format' => Stage::FORMAT, 'objects' => array_map(Copies::document(...), $exact)])->objects);
    }

    public function testWhatIsHiddenIsNotMet(): void
    {
        $first = Stage::first();
        $sight = static fn (array $stage): ?array => RayCast::along(Stage::read($stage), [-3.0, 0.5, 5.0], [[0.0, 0.0, -1.0], [0.001, 0.0, -1.0], [0.0, -0.001, -1.0]]);
        self::assertSame('cube-1', $sight($first)[0]->id ?? '');
        $objects = $first['objects'];
        \assert(\is_array($objects) && \is_array($objects[1]));
        $objects[1]['hidden'] = true;
        self::assertNull($sight(['objects' => $objects] + $first));
        $this->expectExceptionMessage('/objects/1/hidden: expected true or false');
        $objects[1]['hidden'] = 'yes';
        Stage::read(['objects' => $objects] + $first);
    }

    /** @return iterable<string, array{mixed, string}> */
    public static function mistakes(): iterable
    {
        $object = ['id' => 'a', 'name' => 'A', 'mesh' => 'cube', 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1]];
        $stage = static fn (array $change): array => ['format' => Stage::FORMAT, 'objects' => [$change + $object]];
        yield 'no stage' => ['stage', '/format'];
        yield 'no objects' => [['format' => Stage::FORMAT], '/objects'];
        yield 'an object that is none' => [['format' => Stage::FORMAT, 'objects' => [7]], '/objects/0/id'];
        yield 'a flat scale' => [$stage(['scale' => [1, 0, 1]]), '/objects/0/scale: expected 0.01 to 1000'];
        yield 'an unknown mesh' => [$stage(['mesh' => 'teapot']), '/objects/0/mesh: expected one of cube, sphere, floor'];
        yield 'too much of a value' => [$stage(['value' => 1.5]), '/objects/0/value: expected 0 to 1'];
        yield 'two numbers' => [$stage(['position' => [1, 2]]), '/objects/0/position: expected three numbers'];
        yield 'far away' => [$stage(['position' => [1e9, 2, 3]]), '/objects/0/position'];
        yield 'one id twice' => [['format' => Stage::FORMAT, 'objects' => [$object, $object]], '/objects/1/id: the id "a" is taken'];
        $lit = static fn (mixed $light): array => ['format' => Stage::FORMAT, 'objects' => [$object], 'light' => $light];
        yield 'a paint by another name' => [$stage(['paint' => 'blue']), '/objects/0/paint: expected the SHA-256'];
        yield 'a section without a name' => [$stage(['sections' => [['wears' => 3]]]), '/objects/0/sections/0/section: expected the name of a section'];
        yield 'a section twice' => [$stage(['sections' => [['section' => 'Top'], ['section' => 'Top']]]), '/objects/0/sections/1/section: expected the name of a section, of 1 to 80 characters, once'];
        yield 'a section in what is none' => [$stage(['sections' => [['section' => 'Top', 'wears' => 0]]]), '/objects/0/sections/0/wears: expected the number of a material'];
        yield 'a material by its name' => [$stage(['wears' => 'Long wall run']), '/objects/0/wears: expected the number of a material'];
        yield 'a light that is none' => [$lit('bright'), '/light: expected an object'];
        yield 'a sky that there is not' => [$lit(['sky' => 'night']), '/light/sky: expected one of clear-day, low-sun, overcast, hall'];
        yield 'a sun below the horizon' => [$lit(['height' => -3]), '/light/height: expected 0.5 to 90'];
        yield 'a colour of two' => [$lit(['colour' => [1, 0]]), '/light/colour: expected red, green and blue'];
        yield 'a sky that is seen a little' => [$lit(['shown' => 0.5]), '/light/shown'];
        yield 'a camera that is none' => [['format' => Stage::FORMAT, 'objects' => [$object], 'camera' => 5], '/camera/position'];
    }

    #[DataProvider('mistakes')]
    public function testMistakesAreNamedWithTheirPlace(mixed $stage, string $message): void
    {
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage($message);
        Stage::read($stage);
    }

    public function testAPointKnowsTheSectionTheSetsOfUVsAndTheValueOfItsObject(): void
    {
        $cube = ['id' => 'a', 'name' => 'A', 'mesh' => 'cube', 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'value' => 0.25];
        $seen = RayCast::along(Stage::read(['format' => Stage::FORMAT, 'objects' => [$cube]]), [0.0, 0.5, 5.0], [[0.0, 0.0, -1.0], [0.001, 0.0, -1.0], [0.0, -0.001, -1.0]]);
        self::assertNotNull($seen);
        $inputs = $seen[1]->inputs;
        self::assertSame([[4.0], [0.25]], [$inputs['section'], $inputs['objectValue']], 'the front is the fifth section');
        self::assertEqualsWithDelta([0.5, 0.75], $inputs['uv2'], 1e-7, 'the middle of the cell in the middle of the lower row');
        self::assertEqualsWithDelta([1.5, 0.5], $inputs['uv3'], 1e-9, 'the middle of the second metre of the belt');
        self::assertEqualsWithDelta([1.5 / 4, 1.5 / 4], $inputs['uv4'], 1e-7, 'the middle of the cross');
        foreach (Surface::UV_SETS as $set) {
            self::assertEqualsWithDelta([[1.0, 0.0, 0.0], [0.0, -1.0, 0.0]], [$inputs["{$set}T"], $inputs["{$set}B"]], 1e-7, 'u grows to the right, v downwards');
        }
        self::assertEqualsWithDelta((1 / 3 - 0.02) * $inputs['dpdx'][0], $inputs['uv2Dx'][0], 1e-9);
    }

    /** The front of a cube: its corners are the vertices 16 to 19, the upper left one first, then downwards. */
    public function testAPointKnowsWhatIsPaintedThere(): void
    {
        $paint = str_repeat("\0", 4 * 24);
        foreach ([16 => [255, 0, 51, 0], 17 => [255, 0, 51, 0], 18 => [0, 0, 51, 255], 19 => [0, 0, 51, 255]] as $vertex => $channels) {
            $paint = substr_replace($paint, pack('C4', ...$channels), 4 * $vertex, 4);
        }
        [$known, $short] = [hash('sha256', 'a'), hash('sha256', 'b')];
        $paints = new class([$known => $paint, $short => substr($paint, 4)]) implements Paints {
            /** @param array<string, string> $all */
            public function __construct(private readonly array $all)
            {
            }

            public function paint(string $name): ?string
            {
                return $this->all[$name] ?? null;
            }
        };
        $at = static function (string $name, float $x) use ($paints): array {
            $cube = ['id' => 'a', 'name' => 'A', 'mesh' => 'cube', 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'paint' => $name];
            $seen = RayCast::along(Stage::read(['format' => Stage::FORMAT, 'objects' => [$cube]], new ReadyMeshes(), $paints), [$x, 0.5, 5.0], [[0.0, 0.0, -1.0], [0.001, 0.0, -1.0], [0.0, -0.001, -1.0]]);
            self::assertNotNull($seen);

            return $seen[1]->inputs['painted'];
        };
        self::assertEqualsWithDelta([0.5, 0.0, 0.2, 0.5], $at($known, 0.0), 1e-7);
        self::assertEqualsWithDelta([0.9, 0.0, 0.2, 0.1], $at($known, -0.4), 1e-7);
        // What was painted on other vertices, what is gone, and what never was, are nothing.
        foreach ([$short, hash('sha256', 'c'), ''] as $name) {
            self::assertSame([0.0, 0.0, 0.0, 0.0], $at($name, 0.0));
        }
    }
}
