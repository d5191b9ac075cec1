<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Writer;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Colours that a layer takes from a gradient, and from the side that it is seen from. */
final class GradientTest extends TestCase
{
    /** From red over green to blue, in linear light. */
    private const STOPS = [
        ['at' => 0.2, 'red' => 1.0, 'green' => 0.0, 'blue' => 0.0],
        ['at' => 0.6, 'red' => 0.0, 'green' => 1.0, 'blue' => 0.0],
        ['at' => 1.0, 'red' => 0.0, 'green' => 0.0, 'blue' => 1.0],
    ];
    private const RED = [1.0, 0.0, 0.0];
    private const GREEN = [0.0, 1.0, 0.0];

    private static function maps(): TestMaps
    {
        // Looks 40 % light; 102 of 255 high.
        $grey = 102 * 0x010101 | 0xFF000000;

        return (new TestMaps())->add('set', ['base-colour' => new Image(1, 1, 4, [$grey]), 'height' => new Image(1, 1, 1, [102])]);
    }

    /**
     * @param array<string, mixed>       $finish
     * @param list<array<string, mixed>> $steps
     * @param array<string, mixed>       $more   of the layer
     * @param array<string, list<float>> $inputs
     *
     * @return list<float>
     */
    private static function colour(array $finish, array $steps = [], array $more = [], float $u = 0.5, array $inputs = []): array
    {
        $finish += ['gradientStops' => self::STOPS, 'gradientSpace' => 'linear'];
        $layers = [Documents::layer('low', 'a', 'set'), Documents::layer('high', 'a', 'set', $more + ['finish' => ['values' => $finish]])];
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', ['faces' => 'y']), ...$steps)], $layers);
        $lowered = Lowering::lower(Documents::reader()->read($document), self::maps());

        return array_map(floatval(...), Kernels::value($lowered->graph, $lowered->channels['baseColour'], array_replace(FloorLane::at($u, 0.5, 1e-4)->inputs, $inputs), $lowered->uniforms(), self::maps()->everything()));
    }

    /** @return iterable<string, array{array<string, mixed>, list<float>}> */
    public static function places(): iterable
    {
        $grey = Srgb::table()[102];
        yield 'by how light it looks, half way' => [['gradientBy' => 'luminance'], [0.5, 0.5, 0.0]];
        yield 'by heights' => [['gradientBy' => 'height'], [0.5, 0.5, 0.0]];
        yield 'smoothly is the same half way' => [['gradientBy' => 'height', 'gradientBetween' => 'smooth'], [0.5, 0.5, 0.0]];
        yield 'in steps' => [['gradientBy' => 'height', 'gradientBetween' => 'constant'], self::RED];
        yield 'half of it' => [['gradientBy' => 'height', 'gradientAmount' => 50.0], [0.25 + $grey / 2, 0.25 + $grey / 2, $grey / 2]];
        yield 'a tint comes after it' => [['gradientBy' => 'height', 'tint' => [1.0, 0.0, 1.0]], [0.5, 0.0, 0.0]];
        yield 'no gradient' => [['gradientBy' => 'off'], [$grey, $grey, $grey]];
        yield 'colours alone are no gradient' => [[], [$grey, $grey, $grey]];
    }

    /**
     * @param array<string, mixed> $finish
     * @param list<float>          $expected linear
     */
    #[DataProvider('places')]
    public function testAPlaceOfTheGradient(array $finish, array $expected): void
    {
        self::assertEqualsWithDelta($expected, self::colour($finish), 2e-5);
    }

    public function testByTheMask(): void
    {
        // The mask says 60 %, where the gradient is green; as much of it covers the grey below.
        $grey = Srgb::table()[102];
        $found = self::colour(['gradientBy' => 'mask'], more: ['mask' => [['kind' => 'constant', 'values' => ['value' => 60.0]]]]);
        self::assertEqualsWithDelta([0.4 * $grey, 0.6 + 0.4 * $grey, 0.4 * $grey], $found, 2e-5);
    }

    public function testInOklabTheMiddleOfBlackAndWhiteLooksHalfAsLight(): void
    {
        $stops = [['at' => 0.0, 'red' => 0.0, 'green' => 0.0, 'blue' => 0.0], ['at' => 1.0, 'red' => 1.0, 'green' => 1.0, 'blue' => 1.0]];
        // L = 0.4, and light is its cube, but for what the cube root makes of black.
        self::assertEqualsWithDelta([0.064, 0.064, 0.064], self::colour(['gradientBy' => 'height', 'gradientStops' => $stops, 'gradientSpace' => 'oklab']), 4e-4);
    }

    public function testEveryObjectDrawsItsOwn(): void
    {
        $stops = [['at' => 0.0, 'red' => 0.0, 'green' => 0.0, 'blue' => 0.0], ['at' => 1.0, 'red' => 1.0, 'green' => 1.0, 'blue' => 1.0]];
        [$along, $channels, $again] = [[], [], []];
        foreach (range(1, 200) as $object) {
            $of = ['objectSeed' => [(float) $object]];
            $along[] = self::colour(['gradientBy' => 'object', 'gradientStops' => $stops], inputs: $of);
            $channels[] = self::colour(['gradientBy' => 'object', 'gradientStops' => $stops, 'gradientDraws' => 'channels'], inputs: $of);
            $again[] = self::colour(['gradientBy' => 'object', 'gradientStops' => $stops, 'gradientSeed' => 5], inputs: $of);
        }
        self::assertNotEquals($along, $again, 'another seed, other colours');
        // Even draws: their mean is a half, give or take three standard errors.
        /** @param list<list<float>> $colours */
        $mean = static fn (array $colours, int $c): float => array_sum(array_column($colours, $c)) / \count($colours);
        foreach ([0, 1, 2] as $c) {
            self::assertEqualsWithDelta(0.5, $mean($along, $c), 3 / sqrt(12 * 200));
            self::assertEqualsWithDelta(0.5, $mean($channels, $c), 3 / sqrt(12 * 200));
        }
        // A place of a grey gradient is grey; channels by themselves are as good as never.
        $apart = static fn (float $r, float $g, float $b): float => max(abs($r - $g), abs($g - $b));
        self::assertSame([], array_filter($along, static fn (array $rgb): bool => $apart(...$rgb) > 1e-6));
        self::assertGreaterThan(190, \count(array_filter($channels, static fn (array $rgb): bool => $apart(...$rgb) > 0.02)));
    }

    public function testEveryPieceDrawsItsOwn(): void
    {
        $bond = [Documents::step('bond', ['laid' => 'stack', 'length' => 1.0, 'width' => 1.0, 'joint' => 0.0, 'bevel' => 0.0])];
        $at = static fn (float $u): array => self::colour(['gradientBy' => 'piece'], $bond, u: $u);
        self::assertEqualsWithDelta($at(0.3), $at(0.7), 1e-9, 'one piece, one colour');
        $pieces = array_map(static fn (int $i): string => implode(' ', array_map(static fn (float $c): string => \sprintf('%.4f', $c), $at($i + 0.5))), range(0, 19));
        // A fifth of the draws lies before the first stop, which is red.
        self::assertGreaterThan(12, \count(array_unique($pieces)));

        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage('/layers/1/finish/values/gradientBy');
        self::colour(['gradientBy' => 'piece']);
    }

    public function testStopsStandInOrder(): void
    {
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage('expected at to be larger than in the row before');
        self::colour(['gradientBy' => 'height', 'gradientStops' => array_reverse(self::STOPS)]);
    }

    public function testSixSidesSixColours(): void
    {
        $tints = ['+x' => [1.0, 0.0, 0.0], '-x' => [0.0, 1.0, 0.0], '+y' => [0.0, 0.0, 1.0], '-y' => [1.0, 1.0, 0.0], '+z' => [0.0, 1.0, 1.0]];
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', ['faces' => 'six', 'seam' => 0.0]))], [['id' => 'low', 'name' => 'low', 'lane' => 'a', 'set' => '', 'tints' => $tints]]);
        $material = Documents::reader()->read($document);
        self::assertEquals($material, Documents::reader()->read(json_decode(Writer::json($material), true)), 'it is written as it was read');
        $lowered = Lowering::lower($material, self::maps());
        $of = static function (float ...$normal) use ($lowered): array {
            $inputs = FloorLane::at(0.5, 0.5, 1e-4)->inputs;
            $inputs['normal'] = array_values($normal);

            return Kernels::value($lowered->graph, $lowered->channels['baseColour'], $inputs, $lowered->uniforms(), self::maps()->everything());
        };
        self::assertEqualsWithDelta(self::RED, $of(1.0, 0.0, 0.0), 1e-9);
        self::assertEqualsWithDelta(self::GREEN, $of(-1.0, 0.0, 0.0), 1e-9);
        self::assertEqualsWithDelta([0.0, 0.0, 1.0], $of(0.0, 1.0, 0.0), 1e-9);
        self::assertEqualsWithDelta([1.0, 1.0, 0.0], $of(0.0, -1.0, 0.0), 1e-9);
        self::assertEqualsWithDelta([0.0, 1.0, 1.0], $of(0.0, 0.0, 1.0), 1e-9);
        self::assertEqualsWithDelta([1.0, 1.0, 1.0], $of(0.0, 0.0, -1.0), 1e-9, 'a side that says nothing is white');
    }
}
