<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Lowering\Picture;
use Rilta\Core\Material\Writer;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Groups of layers, and how much of each layer is seen, against closed forms on maps of one value. */
final class GroupTest extends TestCase
{
    private const ROUGH = ['a' => 0.0, 'b' => 0.4, 'c' => 1.0];

    /**
     * @param list<array<string, mixed>> $layers
     * @param array<string, mixed>       $more   of the document
     */
    private static function lowered(array $layers, array $more = []): Lowered
    {
        return Lowering::lower(Documents::reader()->read($more + Documents::whole([Documents::lane('main', Documents::step('origin', ['faces' => 'y']))], $layers)), self::maps());
    }

    private static function maps(): TestMaps
    {
        $maps = new TestMaps();
        foreach (self::ROUGH as $set => $value) {
            $maps->add($set, ['roughness' => new Image(1, 1, 1, [(int) round(255 * $value)]), 'height' => new Image(1, 1, 1, [(int) round(255 * $value)])]);
        }

        return $maps;
    }

    /** @return array{roughness: float, shares: list<float>} */
    private static function read(Lowered $lowered): array
    {
        $found = Kernels::values($lowered->graph, ['roughness' => $lowered->channels['roughness']] + $lowered->shares, FloorLane::at(0.1, 0.1)->inputs, $lowered->uniforms(), self::maps()->everything());

        return ['roughness' => (float) $found['roughness'][0], 'shares' => array_map(static fn (string $path): float => (float) $found[$path][0], array_keys($lowered->shares))];
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    private static function layer(string $set, array $more = []): array
    {
        return Documents::layer("layer-$set", 'main', $set, $more);
    }

    public function testTheOpacityOfAGroupMixesWhatItsLayersMakeTogether(): void
    {
        foreach ([0.0, 40.0, 100.0] as $opacity) {
            $found = self::read(self::lowered([self::layer('a'), self::layer('b', ['group' => 'wet', 'opacity' => 50]), self::layer('c', ['group' => 'wet', 'opacity' => 25])], ['groups' => [['id' => 'wet', 'name' => 'Wet', 'opacity' => $opacity]]]));
            $together = (0.4 * 0.5) * 0.75 + 0.25;
            self::assertEqualsWithDelta($together * $opacity / 100, $found['roughness'], 1e-9);
            $g = $opacity / 100;
            self::assertEqualsWithDelta([1 - $g + $g * 0.5 * 0.75, $g * 0.5 * 0.75, $g * 0.25], $found['shares'], 1e-9);
            self::assertEqualsWithDelta(1.0, array_sum($found['shares']), 1e-9);
        }
    }

    public function testAGroupIsNotTheSameAsItsLayersBeingThinner(): void
    {
        $layers = [self::layer('a'), self::layer('b', ['group' => 'wet']), self::layer('c', ['group' => 'wet'])];
        self::assertEqualsWithDelta(0.5, self::read(self::lowered($layers, ['groups' => [['id' => 'wet', 'name' => 'Wet', 'opacity' => 50]]]))['roughness'], 1e-9, 'the upper one hides the lower one in it');
    }

    public function testAGroupEndsWhereItsLayersEnd(): void
    {
        $found = self::read(self::lowered([self::layer('a'), self::layer('b', ['group' => 'wet']), self::layer('c', ['opacity' => 50])], ['groups' => [['id' => 'wet', 'name' => 'Wet', 'opacity' => 50]]]));
        self::assertEqualsWithDelta(0.2 * 0.5 + 0.5, $found['roughness'], 1e-9);
        self::assertEqualsWithDelta([0.25, 0.25, 0.5], $found['shares'], 1e-9);
    }

    public function testAtTheGroundThereIsNothingToSeeThrough(): void
    {
        $found = self::read(self::lowered([self::layer('c', ['group' => 'ground']), self::layer('a', ['group' => 'ground', 'opacity' => 50])], ['groups' => [['id' => 'ground', 'name' => 'Ground', 'opacity' => 10]]]));
        self::assertEqualsWithDelta(0.5, $found['roughness'], 1e-9);
    }

    public function testTheOpacityOfAGroupIsAUniformAndMayFollowAParameter(): void
    {
        $lowered = self::lowered([self::layer('a'), self::layer('c', ['group' => 'wet'])], ['groups' => [['id' => 'wet', 'name' => 'Wet', 'opacity' => ['parameter' => 'tide', 'factor' => 50, 'offset' => 10]]], 'parameters' => [['id' => 'tide', 'name' => 'Tide', 'kind' => 'number', 'value' => 0.4]]]);
        self::assertEqualsWithDelta(0.3, self::read($lowered)['roughness'], 1e-9);
        self::assertEqualsWithDelta(0.6, self::read($lowered->withNumbers(['/parameters/0/value' => 1.0]))['roughness'], 1e-9);
    }

    public function testGroupsAreKeptAndMistakesNamed(): void
    {
        $document = ['groups' => [['id' => 'wet', 'name' => 'Wet']]] + Documents::whole([Documents::lane('main', Documents::step('origin'))], [self::layer('a'), self::layer('b', ['group' => 'wet'])]);
        $json = Writer::json(Documents::reader()->read($document));
        self::assertStringContainsString('"groups":[{"id":"wet","name":"Wet","opacity":100}],"layers":', $json);
        self::assertStringContainsString('"group":"wet"', $json);
        self::assertSame($json, Writer::json(Documents::reader()->readJson($json)));

        $salvage = Documents::reader()->salvage(['layers' => [self::layer('a', ['group' => 'wet']), self::layer('b', ['group' => 'dry']), self::layer('c', ['group' => 'wet'])]] + $document);
        self::assertSame(['/layers/1/group', '/layers/2/group'], array_column($salvage->problems, 'path'));
        self::assertStringContainsString('there is no group "dry"; the groups are wet', $salvage->problems[0]->message);
        self::assertStringContainsString('next to each other', $salvage->problems[1]->message);
        self::assertSame(['wet', '', ''], array_values(array_map(static fn ($layer): string => $layer->group, $salvage->material->layers)));
    }

    /** @return iterable<string, array{array<string, mixed>, list<float>}> how the upper layer lies, and how much of both is seen */
    public static function ways(): iterable
    {
        yield 'mixed' => [['opacity' => 30], [0.7, 0.3]];
        yield 'by a mask' => [['opacity' => 50, 'mask' => [['kind' => 'constant', 'values' => ['value' => 40]]]], [0.8, 0.2]];
        yield 'by height, which wins' => [['mode' => 'height', 'width' => 10], [0.0, 1.0]];
        yield 'leaving colours alone, which hides nothing' => [['opacity' => 70, 'channels' => ['roughness', 'opacity']], [1.0, 0.7]];
        yield 'added, which hides nothing' => [['mode' => 'add', 'opacity' => 60], [1.0, 0.6]];
    }

    /**
     * @param array<string, mixed> $way
     * @param list<float>          $expected
     */
    #[DataProvider('ways')]
    public function testHowMuchOfALayerIsSeen(array $way, array $expected): void
    {
        $lowered = self::lowered([self::layer('a'), self::layer('c', $way)]);
        self::assertSame(['/layers/0', '/layers/1'], array_keys($lowered->shares));
        self::assertEqualsWithDelta($expected, self::read($lowered)['shares'], 1e-6);
    }

    public function testPicturesCarryTheSharesOfThreeLayersEach(): void
    {
        $layers = array_map(static fn (int $i): array => ['id' => "layer-$i"] + self::layer('b', ['opacity' => 50]), range(0, 3));
        $lowered = self::lowered($layers);
        $pictures = array_values(array_filter(Picture::all($lowered), static fn (Picture $p): bool => str_starts_with($p->name, 'shares:')));
        self::assertSame(['shares:0', 'shares:3'], array_map(static fn (Picture $p): string => $p->name, $pictures));
        $read = static fn (Picture $p): array => Kernels::value($lowered->graph, $p->colour, FloorLane::at(0.1, 0.1)->inputs, $lowered->uniforms(), self::maps()->everything());
        self::assertEqualsWithDelta([0.125, 0.125, 0.25], $read($pictures[0]), 1e-9);
        self::assertEqualsWithDelta([0.5, 0.0, 0.0], $read($pictures[1]), 1e-9);
    }
}
