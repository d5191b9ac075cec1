<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Channels that a finish makes from others, against closed forms. */
final class DerivedTest extends TestCase
{
    /** sRGB bytes: linear 0.216, which looks half as light as white. */
    private const GREY = 128;
    private const HEIGHT = 51;

    private static function maps(): TestMaps
    {
        $grey = self::GREY | self::GREY << 8 | self::GREY << 16 | 0xFF000000;
        // Heights that rise by 16 of 255 a texel to the right, and colours that do the same as they look.
        $ramp = array_map(static fn (int $i): int => 16 * ($i % 16), range(0, 255));

        return (new TestMaps())
            ->add('set', ['base-colour' => new Image(1, 1, 4, [$grey]), 'roughness' => new Image(1, 1, 1, [102]), 'height' => new Image(1, 1, 1, [self::HEIGHT])])
            ->add('many', ['base-colour' => new Image(1, 1, 4, [10 | 60 << 8 | 200 << 16 | 90 << 24]), 'normal' => new Image(1, 1, 4, [158 | 128 << 8 | 251 << 16 | 0xFF000000]), 'roughness' => new Image(1, 1, 1, [102])])
            ->add('ramp', ['base-colour' => new Image(16, 16, 4, array_map(static fn (int $v): int => $v * 0x010101 | 0xFF000000, $ramp)), 'height' => new Image(16, 16, 1, $ramp)], 2.0);
    }

    /**
     * @param array<string, mixed> $finish
     * @param array<string, mixed> $more
     */
    private static function lowered(array $finish, string $set = 'set', array $more = [], float $size = 1.0): Lowered
    {
        $document = $more + Documents::whole([Documents::lane('a', Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => $size]))], [Documents::layer('low', 'a', $set, ['finish' => ['values' => $finish]])]);

        return Lowering::lower(Documents::reader()->read($document), self::maps(), true);
    }

    /** @return list<float|int> */
    private static function read(Lowered $lowered, string $channel, float $u = 0.5): array
    {
        return Kernels::value($lowered->graph, $lowered->channels[$channel], FloorLane::at($u, 0.5, 1e-4)->inputs, $lowered->uniforms(), self::maps()->everything());
    }

    /** @return iterable<string, array{string, array<string, mixed>, float}> channel, finish without the channel's name, expected */
    public static function channels(): iterable
    {
        $light = self::GREY / 255;
        $high = self::HEIGHT / 255;
        foreach (['roughness', 'metallic', 'occlusion', 'height'] as $channel) {
            yield "$channel from luminance" => [$channel, ['Source' => 'luminance'], $light];
            yield "$channel, brighter" => [$channel, ['Source' => 'luminance', 'Brightness' => 20], $light + 0.2];
            yield "$channel, more contrast" => [$channel, ['Source' => 'luminance', 'Contrast' => 200, 'Brightness' => 10], ($light - 0.5) * 2 + 0.6];
            yield "$channel, half a constant" => [$channel, ['Source' => 'luminance', 'Amount' => 50, 'Constant' => 90], 0.5 * $light + 0.45];
            yield "$channel, a constant alone" => [$channel, ['Source' => 'luminance', 'Amount' => 0, 'Constant' => 35], 0.35];
        }
        foreach (['red' => 10, 'green' => 60, 'blue' => 200, 'alpha' => 90] as $letter => $byte) {
            yield "the $letter of a colour, as the file has it" => ['roughness', ['Source' => 'channel', 'Channel' => $letter], $byte / 255];
        }
        yield 'gloss in the alpha, turned over' => ['roughness', ['Source' => 'channel', 'Invert' => true], 1 - 90 / 255];
        yield 'the green of a normal' => ['metallic', ['Source' => 'channel', 'Of' => 'normal', 'Channel' => 'green', 'Contrast' => -100], 1 - 128 / 255];
        yield 'the red of a grey map' => ['occlusion', ['Source' => 'channel', 'Of' => 'roughness', 'Channel' => 'red'], 102 / 255];
        yield 'roughness from heights' => ['roughness', ['Source' => 'height'], $high];
        yield 'dark where it is high' => ['roughness', ['Source' => 'height', 'Contrast' => -100], 1 - $high];
        yield 'then the rest of the finish' => ['roughness', ['Source' => 'height', 'From' => 0.2, 'To' => 0.8, 'Factor' => 50], 0.5 * (0.2 + 0.6 * $high)];
        yield 'without a source the map is read' => ['roughness', ['Brightness' => 40, 'Contrast' => 10], 0.4];
    }

    /** @param array<string, mixed> $finish */
    #[DataProvider('channels')]
    public function testAChannelIsMadeFromAnother(string $channel, array $finish, float $expected): void
    {
        $named = [];
        foreach ($finish as $name => $value) {
            $named[$channel . $name] = $value;
        }
        self::assertEqualsWithDelta($expected, self::read(self::lowered($named, ($finish['Source'] ?? '') === 'channel' ? 'many' : 'set'), $channel)[0], 1e-6);
    }

    public function testAMapThatTheSetLacksIsTold(): void
    {
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage('/layers/0/finish/values/roughnessOf: no map set of this layer has a map of the role "emission"');
        self::lowered(['roughnessSource' => 'channel', 'roughnessOf' => 'emission']);
    }

    public function testWhereALayerCoversInPartItIsMadeAsIfItCoveredAll(): void
    {
        $place = Documents::step('place', ['u' => 0.5, 'v' => 0.5, 'width' => 0.2, 'height' => 4.0, 'outside' => 'nothing']);
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', ['faces' => 'y']), $place)], [Documents::layer('low', 'a', 'set', ['finish' => ['values' => ['roughnessSource' => 'luminance', 'roughnessBrightness' => 30]]])]);
        $lowered = Lowering::lower(Documents::reader()->read($document), self::maps());
        $cover = $lowered->layers[0]->cover['roughness'];
        $found = Kernels::values($lowered->graph, ['cover' => $cover, 'roughness' => $lowered->channels['roughness']], FloorLane::at(0.6, 0.5, 0.01)->inputs, $lowered->uniforms(), self::maps()->everything());
        self::assertEqualsWithDelta(0.5, $found['cover'][0], 1e-6);
        self::assertEqualsWithDelta(0.5 * 0.7 + 0.5 * (self::GREY / 255 + 0.3), $found['roughness'][0], 1e-6);
    }

    /** @return iterable<string, array{array<string, mixed>, float, float}> finish, size in metres, slope in metres a metre */
    public static function slopes(): iterable
    {
        // A texel of a repeat of 2 m is 125 mm wide; a step of 16/255 of 50 mm is 3.14 mm high.
        $step = 16 / 255;
        yield 'heights over the range of the surface' => [['reliefSource' => 'height'], 2.0, $step * 0.05 / 0.125];
        yield 'a layer of a larger range' => [['reliefSource' => 'height', 'heightRange' => 0.2], 2.0, $step * 0.2 / 0.125];
        yield 'the same maps at half the size are steeper' => [['reliefSource' => 'height'], 1.0, $step * 0.05 / 0.0625];
        yield 'luminance as it looks' => [['reliefSource' => 'luminance'], 2.0, $step * 0.05 / 0.125];
        yield 'relief turns it over' => [['reliefSource' => 'height', 'relief' => -200], 2.0, -2 * $step * 0.05 / 0.125];
        yield 'both, without a normal map' => [['reliefSource' => 'both'], 2.0, $step * 0.05 / 0.125];
        yield 'the normal map, of which there is none' => [['reliefSource' => 'map'], 2.0, 0.0];
    }

    /** @param array<string, mixed> $finish */
    #[DataProvider('slopes')]
    public function testNormalsAreMadeFromHeightsAsSteepAsTheyAre(array $finish, float $size, float $slope): void
    {
        $found = self::read(self::lowered($finish, 'ramp', [], $size), 'normal', 0.47);
        // On a floor u grows along x.
        $expected = [-$slope / hypot(1, $slope), 1 / hypot(1, $slope), 0.0];
        // Between texels colours are mixed in linear light.
        self::assertEqualsWithDelta($expected, $found, 3e-4);
    }

    /**
     * @param array<string, mixed> $finish
     * @param array<string, mixed> $more
     */
    private static function height(array $finish, array $more = []): float
    {
        return (float) self::read(self::lowered($finish, 'set', $more), 'height')[0];
    }

    public function testHeightsOfALayerAreOfTheRangeOfTheWholeSurface(): void
    {
        $surface = ['surface' => ['values' => ['heightRange' => 0.1]]];
        $high = self::HEIGHT / 255;
        self::assertEqualsWithDelta($high, self::height([]), 1e-6);
        self::assertEqualsWithDelta($high, self::height(['heightRange' => 0.1], $surface), 1e-6);
        self::assertEqualsWithDelta(0.5 + ($high - 0.5) * 0.4, self::height(['heightRange' => 0.04], $surface), 1e-6, 'shallow heights stay about the middle');
        self::assertEqualsWithDelta(0.0, self::height(['heightRange' => 0.5], $surface), 1e-6, 'deeper ones are cut off');
        self::assertEqualsWithDelta(0.2 + 0.4 * $high, self::height(['heightFrom' => 0.2, 'heightTo' => 0.6]), 1e-6);
        self::assertEqualsWithDelta(1 - $high, self::height(['heightInvert' => true]), 1e-6);
        self::assertSame(Srgb::table()[self::GREY], self::read(self::lowered([]), 'baseColour')[0], 'the colour is left as it is');
    }
}
