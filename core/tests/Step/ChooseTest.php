<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Raster\Image;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Kernel;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

final class ChooseTest extends TestCase
{
    private const LOW = 0.0;
    private const MIDDLE = 0.4;
    private const HIGH = 1.0;

    /** @var \WeakMap<Node, Kernel>|null by field */
    private static ?\WeakMap $kernels = null;

    /** @var array<string, list<int>>|null */
    private static ?array $maps = null;

    /** Three sets of one roughness and one height each, and a fourth that is none of them. */
    private static function maps(): TestMaps
    {
        $maps = new TestMaps();
        foreach (['low' => [0, 0], 'middle' => [102, 102], 'high' => [255, 255], 'other' => [51, 51]] as $name => [$rough, $height]) {
            $maps->add($name, ['roughness' => new Image(2, 2, 1, array_fill(0, 4, $rough)), 'height' => new Image(2, 2, 1, array_fill(0, 4, $height))]);
        }

        return $maps->group('three', 'low', 'middle', 'high');
    }

    /** @param array<string, mixed> ...$steps */
    private static function lowered(string $set, array ...$steps): Lowered
    {
        return Lowering::lower(Documents::reader()->read(Documents::of([Documents::step('origin', ['faces' => 'y']), ...array_values($steps)], $set)), self::maps());
    }

    /** @param array<string, mixed> $values */
    private static function choose(array $values, string $set = 'low'): Lowered
    {
        return self::lowered($set, Documents::step('choose', ['family' => 'three'] + $values));
    }

    private static function at(Lowered $lowered, float $u, float $v = 0.5, int $object = 1, ?Node $field = null): float
    {
        $field ??= $lowered->channels['roughness'];
        $point = FloorLane::at($u, $v, object: $object);
        self::$maps ??= self::maps()->everything();
        self::$kernels ??= new \WeakMap();
        $kernels = self::$kernels[$field] ??= Kernels::compiler()->compile($lowered->graph, ['it' => $field], array_map(static fn (): Binding => Binding::Constant, $point->inputs));

        return (float) $kernels->points(1, $lowered->uniforms(), self::$maps, $point->inputs)['it'][0][0];
    }

    public function testEveryObjectHasOneAndEachIsTakenAboutAsOften(): void
    {
        $counts = [];
        $lowered = self::choose(['by' => 'object', 'seed' => 3]);
        for ($object = 0; $object < 300; ++$object) {
            $found = self::at($lowered, 0.3, object: $object);
            $counts[(string) round($found, 9)] = ($counts[(string) round($found, 9)] ?? 0) + 1;
            self::assertSame($found, self::at($lowered, 7.9, object: $object), 'all over the object');
        }
        ksort($counts);
        self::assertSame(['0', '0.4', '1'], array_map(strval(...), array_keys($counts)));
        // 100 expected of each, with a deviation of 8.2.
        foreach ($counts as $count) {
            self::assertEqualsWithDelta(100, $count, 33);
        }
        $other = self::choose(['by' => 'object', 'seed' => 4]);
        self::assertNotSame(array_map(static fn (int $o): float => self::at($lowered, 0.0, object: $o), range(1, 20)), array_map(static fn (int $o): float => self::at($other, 0.0, object: $o), range(1, 20)));
    }

    /** @return iterable<string, array{float, float}> */
    public static function numbers(): iterable
    {
        yield 'the first' => [0.0, self::LOW];
        yield 'the second' => [1.0, self::MIDDLE];
        yield 'the third' => [2.0, self::HIGH];
        yield 'beyond is the last' => [9.0, self::HIGH];
    }

    #[DataProvider('numbers')]
    public function testANumberChooses(float $index, float $expected): void
    {
        self::assertEqualsWithDelta($expected, self::at(self::choose(['by' => 'number', 'index' => $index], 'middle'), 0.1), 1e-9);
        self::assertEqualsWithDelta(0.2, self::at(self::choose(['by' => 'number', 'index' => $index], 'other'), 0.1), 1e-9, 'a set of no family stays');
    }

    public function testWithoutAFamilyNothingIsChosen(): void
    {
        $lowered = self::lowered('middle', Documents::step('choose'));
        self::assertCount(1, $lowered->layers[0]->taps);
        self::assertEqualsWithDelta(self::MIDDLE, self::at($lowered, 0.1), 1e-9);
    }

    public function testPatchesAreWholeWithoutFeatherAndBlendWithoutJumpsWithIt(): void
    {
        $hard = self::choose(['size' => 1.0, 'feather' => 0.0, 'seed' => 5]);
        $soft = self::choose(['size' => 1.0, 'feather' => 30.0, 'seed' => 5]);
        $seen = [];
        $before = null;
        for ($i = 0; $i < 400; ++$i) {
            $found = round(self::at($hard, $i * 0.02), 9);
            $seen[(string) $found] = true;
            $now = self::at($soft, $i * 0.02);
            if ($before !== null) {
                self::assertEqualsWithDelta($before, $now, 0.25, 'at ' . $i * 0.02);
            }
            $before = $now;
        }
        ksort($seen);
        self::assertSame(['0', '0.4', '1'], array_map(strval(...), array_keys($seen)));
    }

    public function testHeightsDecideWherePatchesMeet(): void
    {
        $plain = self::choose(['size' => 1.0, 'feather' => 30.0, 'seed' => 5]);
        $none = self::choose(['size' => 1.0, 'feather' => 30.0, 'seed' => 5, 'lean' => true, 'bias' => 0.0]);
        $lowered = self::choose(['size' => 1.0, 'feather' => 30.0, 'seed' => 5, 'lean' => true, 'bias' => 0.25]);
        $taps = $lowered->layers[0]->taps;
        $blended = 0;
        for ($i = 0; $i < 60; ++$i) {
            self::assertEqualsWithDelta(self::at($plain, $i * 0.13), self::at($none, $i * 0.13), 1e-9, 'a bias of 0 is nothing');
            $scores = [];
            foreach ($taps as $k => $tap) {
                $scores[] = self::at($lowered, $i * 0.13, field: $tap->leans[0]->score) + 0.25 * [self::LOW, self::MIDDLE, self::HIGH][$k];
            }
            $shares = array_map(static fn (float $score): float => max(0.0, $score - max($scores) + 0.3), $scores);
            $expected = ($shares[1] * self::MIDDLE + $shares[2] * self::HIGH) / array_sum($shares);
            self::assertEqualsWithDelta($expected, self::at($lowered, $i * 0.13), 1e-6);
            $blended += (int) (\count(array_filter($shares)) > 1);
        }
        self::assertGreaterThan(20, $blended);
    }

    public function testEveryPieceHasOne(): void
    {
        $lowered = self::lowered('low', Documents::step('bond', ['length' => 1.0, 'width' => 1.0, 'joint' => 0.0, 'laid' => 'stack']), Documents::step('choose', ['family' => 'three', 'by' => 'piece', 'seed' => 2]));
        $seen = [];
        for ($piece = 0; $piece < 40; ++$piece) {
            $found = self::at($lowered, $piece + 0.2, 0.3);
            self::assertEqualsWithDelta($found, self::at($lowered, $piece + 0.8, 0.7), 1e-9);
            $seen[(string) round($found, 9)] = true;
        }
        self::assertCount(3, $seen);
    }

    public function testCellsOfABreakupMeetByHeightToo(): void
    {
        $breakup = ['cell' => 1.0, 'feather' => 40.0, 'seed' => 5];
        $choose = Documents::step('choose', ['family' => 'three', 'by' => 'piece', 'seed' => 2]);
        $plain = self::lowered('low', Documents::step('breakup', $breakup), $choose);
        $none = self::lowered('low', Documents::step('breakup', $breakup + ['lean' => true, 'bias' => 0.0]), $choose);
        $high = self::lowered('low', Documents::step('breakup', $breakup + ['lean' => true, 'bias' => 4.0, 'contrast' => false]), $choose);
        $differs = 0;
        for ($i = 0; $i < 60; ++$i) {
            self::assertEqualsWithDelta(self::at($plain, $i * 0.13), self::at($none, $i * 0.13), 1e-9, 'a bias of 0 is nothing');
            $sum = 0.0;
            foreach ($high->layers[0]->taps as $tap) {
                $sum += self::at($high, $i * 0.13, field: $tap->weight);
            }
            self::assertEqualsWithDelta(1.0, $sum, 1e-9);
            $differs += (int) (abs(self::at($high, $i * 0.13) - self::at($plain, $i * 0.13)) > 0.05);
        }
        self::assertGreaterThan(5, $differs);
    }

    public function testAFamilyThatIsNotThereIsNamedWithItsPlace(): void
    {
        try {
            self::lowered('low', Documents::step('choose', ['family' => 'four']));
            self::fail();
        } catch (InvalidDocument $e) {
            self::assertSame(['/lanes/0/steps/1/values/family', 'there is no family "four"; there are three'], [$e->problems[0]->path, $e->problems[0]->message]);
        }
    }
}
