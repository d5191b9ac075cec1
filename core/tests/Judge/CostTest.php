<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Judge;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Judge\Cost;
use Rilta\Core\Judge\Profile;
use Rilta\Core\Judge\Savings;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Problem;
use Rilta\Core\Raster\Image;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\TestMaps;

/** Costs that can be counted by hand. */
final class CostTest extends TestCase
{
    public function testMapsAreWeighedOnceHoweverOftenTheyAreRead(): void
    {
        $lanes = [Documents::lane('a', Documents::step('origin', ['faces' => 'y'])), Documents::lane('b', Documents::step('origin', ['faces' => 'y']), Documents::step('turn', ['angle' => 20]))];
        $once = self::cost(Documents::whole($lanes, [Documents::layer('low', 'a')]));
        $twice = self::cost(Documents::whole($lanes, [Documents::layer('low', 'a'), Documents::layer('top', 'b', more: ['opacity' => 50])]));
        // 16 x 16, 8 x 8 … 1: 341 texels; two maps of four bytes, two of one.
        self::assertSame([1, 4, 4, 341 * 10], [$once->taps, $once->fetches, $once->textures, $once->bytes]);
        // In blocks colours and normals have a byte a texel, what has one channel half a one.
        self::assertSame(341 * 2 + 2 * 171, $once->compressed);
        self::assertSame([2, 8, 4, $once->bytes], [$twice->taps, $twice->fetches, $twice->textures, $twice->bytes]);
        self::assertGreaterThan($once->estimate, $twice->estimate);
    }

    public function testWhatIsTheSameAllOverThePictureCostsNothingAPixel(): void
    {
        $turned = static fn (float $angle): Cost => self::cost(Documents::of([Documents::step('origin', ['faces' => 'y']), Documents::step('turn', ['angle' => $angle])]));
        // Sine and cosine of an angle are computed once a picture.
        self::assertEquals($turned(20.0), $turned(21.0));
        self::assertSame(0, self::cost(Documents::of([Documents::step('origin', ['faces' => 'y'])]))->whole);
        self::assertGreaterThan(0, self::cost(Documents::of([Documents::step('origin', ['faces' => 'y']), Documents::step('breakup')]))->whole);
    }

    public function testWhatAPartCostsIsWhatLessItIsWithout(): void
    {
        $lanes = [Documents::lane('a', Documents::step('origin', ['faces' => 'y']), Documents::step('hex-blend'))];
        $masked = static fn (string ...$kinds): array => Documents::whole($lanes, [Documents::layer('low', 'a'), Documents::layer('top', 'a', 'other', ['mask' => array_map(static fn (string $kind): array => ['kind' => $kind], array_values($kinds))])]);
        $document = $masked('noise', 'slope');
        $saved = (new Savings(Documents::reader(), self::maps()))->of($document);
        self::assertSame(['/lanes/0/steps/1', '/layers/0', '/layers/1', '/layers/1/mask/0', '/layers/1/mask/1'], array_keys($saved));
        // Three taps become one: of four maps and of one.
        self::assertSame([4, 10], [$saved['/lanes/0/steps/1']->taps, $saved['/lanes/0/steps/1']->fetches]);
        self::assertSame([3, 3, 1], [$saved['/layers/1']->taps, $saved['/layers/1']->fetches, $saved['/layers/1']->textures]);
        self::assertSame(0, $saved['/layers/1/mask/0']->fetches);
        self::assertGreaterThan(20, $saved['/layers/1/mask/0']->arithmetic);
        $whole = self::cost($document);
        self::assertEquals(self::cost($masked('slope'))->under($whole), $saved['/layers/1/mask/0']);
    }

    public function testOfVeryManyPartsTermsAreLeftOutFirst(): void
    {
        $layers = array_map(static fn (int $i): array => Documents::layer("l$i", 'a', more: ['mask' => array_fill(0, 6, ['kind' => 'slope'])]), range(1, 8));
        $saved = (new Savings(Documents::reader(), self::maps()))->of(Documents::whole([Documents::lane('a', Documents::step('origin', ['faces' => 'y']), Documents::step('turn'))], $layers));
        self::assertCount(Savings::MOST, $saved);
        self::assertSame(['/lanes/0/steps/1', '/layers/0', '/layers/7'], [array_keys($saved)[0], array_keys($saved)[1], array_keys($saved)[8]]);
    }

    public function testABudgetTellsWhatIsOverIt(): void
    {
        $ready = Profile::ready();
        self::assertSame(['small', 'middle', 'large'], array_keys($ready));
        $small = $ready['small'];
        $just = new Cost(1, $small->fetches, $small->textures, 0, $small->memory, $small->arithmetic - 40, 10, 0);
        self::assertSame([], $small->over($just));
        $over = new Cost(1, $small->fetches + 1, $small->textures + 1, 0, $small->memory + 1, $small->arithmetic - 40, 10, 1);
        self::assertSame(['map reads' => [17, 16], 'maps' => [9, 8], 'MiB of maps' => [25, 24], 'operations' => [601, 600]], $small->over($over));
    }

    public function testABudgetOfOnesOwnIsReadAndWrittenAndRefusedByPlace(): void
    {
        $said = ['format' => 'rilta-budget/1', 'name' => 'quay-tablet', 'label' => 'Quay tablet', 'help' => 'What the wardens carry.', 'mapReads' => 20, 'maps' => 9, 'mebibytes' => 48, 'operations' => 900];
        $own = Profile::read($said);
        self::assertSame($said, $own->document());
        self::assertSame(['map reads' => [21, 20], 'MiB of maps' => [49, 48]], $own->over(new Cost(1, 21, 9, 0, 48 * 1048576 + 1, 900, 0, 0)));
        $wrong = static function (array $change) use ($said): array {
            try {
                Profile::read([...$said, ...$change]);
            } catch (InvalidDocument $e) {
                return array_map(static fn (Problem $one): string => $one->path, $e->problems);
            }

            return [];
        };
        self::assertSame(['/mapReads', '/operations'], $wrong(['mapReads' => 0, 'operations' => 1.5]));
        self::assertSame(['/name'], $wrong(['name' => 'small']));
        self::assertSame(['/name', '/label'], $wrong(['name' => '../x', 'label' => '']));
        self::assertSame(['/format'], $wrong(['format' => 'rilta-budget/9']));
        self::assertSame(['/reads'], $wrong(['reads' => 3]));
    }

    /** @param array<string, mixed> $document */
    private static function cost(array $document): Cost
    {
        return Cost::of(Lowering::lower(Documents::reader()->read($document), self::maps()));
    }

    private static function maps(): TestMaps
    {
        return TestMaps::noise()->add('other', ['base-colour' => new Image(4, 4, 4, range(1, 16))]);
    }
}
