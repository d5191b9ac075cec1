<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Judge;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Judge\HideRepeat;
use Rilta\Core\Judge\Hiding;
use Rilta\Core\Judge\HidingOffers;
use Rilta\Core\Judge\Hidings;
use Rilta\Core\Judge\Patch;
use Rilta\Core\Judge\RepetitionCurve;
use Rilta\Core\Judge\Sharpness;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Repeats that are found are hidden, at a price that is told truly. */
final class HideRepeatTest extends TestCase
{
    public function testARepeatIsHiddenWithinABudget(): void
    {
        $document = self::tile(1.5);
        [$least, $watched] = [Lowering::lower(Documents::reader()->read($document), self::maps())->fetches(), []];
        $found = self::search($document, 3 * $least, static function (int $done, int $all) use (&$watched): void {
            $watched[] = [$done, $all];
        });
        self::assertGreaterThan(0.97, $found->curve->worst()->score);
        self::assertSame($least, $found->cost->fetches);
        self::assertGreaterThanOrEqual(2, \count($found->offers));
        self::assertLessThan(0.2, $found->offers[0]->curve->worst()->score);
        self::assertEqualsWithDelta(12.0, $found->metres, 0.5, 'eight repeats');
        $kinds = [];
        foreach ($found->offers as $offer) {
            // What is told is what another finds who takes it.
            $taken = $offer->hiding->change->applied($document);
            $material = Lowering::lower(Documents::reader()->read($taken), self::maps());
            self::assertSame($material->fetches(), $offer->cost->fetches);
            self::assertLessThanOrEqual(3 * $least, $offer->cost->fetches);
            self::assertEqualsWithDelta(RepetitionCurve::of(new Patch($material, self::maps(), Kernels::compiler()), distances: RepetitionCurve::MANY)->worst()->score, $offer->curve->worst()->score, 1e-9);
            self::assertLessThan($found->curve->worst()->score, $offer->curve->worst()->score);
            self::assertGreaterThanOrEqual(0.7, min([1.0, ...array_values($offer->kept)]));
            self::assertSame([176, 88], [$offer->picture->width, $offer->picture->height]);
            self::assertNotEquals($found->picture->texels, $offer->picture->texels);
            // Nothing of what was there is another.
            self::assertIsArray($taken['lanes']);
            self::assertIsArray($taken['lanes'][0]);
            self::assertIsArray($taken['lanes'][0]['steps']);
            self::assertSame($document['lanes'][0]['steps'], \array_slice($taken['lanes'][0]['steps'], 0, 2));
            self::assertSame($document['layers'], $taken['layers']);
            $kinds[] = $offer->hiding->places;
        }
        self::assertSame($kinds, array_unique($kinds, \SORT_REGULAR));
        self::assertSame([0, 1, 2], array_column(\array_slice($watched, 0, 3), 0));
        self::assertSame([[$found->tried, $found->tried]], \array_slice($watched, -1));
    }

    public function testNothingIsOfferedThatCostsMore(): void
    {
        $document = self::tile(1.5);
        $found = self::search($document, Lowering::lower(Documents::reader()->read($document), self::maps())->fetches());
        self::assertSame([], $found->offers);
        self::assertGreaterThan(3, $found->tried);
    }

    /** What is stopped stops at once. */
    public function testWhoeverWatchesCanStopIt(): void
    {
        $this->expectExceptionMessage('enough');
        self::search(self::tile(1.0), 12, static function (int $done): void {
            if ($done === 2) {
                throw new \RuntimeException('enough');
            }
        });
    }

    public function testWhatIsLaidInPiecesIsNotCutThrough(): void
    {
        $bond = [Documents::step('origin', ['faces' => 'y']), Documents::step('bond', ['length' => 1, 'width' => 1]), Documents::step('size', ['u' => 1])];
        $steps = self::steps(self::hidings(Documents::of($bond), 1.0));
        self::assertContains('scatter', $steps);
        self::assertNotContains('breakup', $steps);
        self::assertNotContains('hex-blend', $steps);
        $tile = self::steps(self::hidings(self::tile(1.0), 1.0));
        self::assertContains('breakup', $tile);
        self::assertContains('hex-blend', $tile);
        self::assertNotContains('scatter', $tile);
    }

    public function testNumbersOfStepsThatAreThereAreChangedUnlessAParameterDrivesThem(): void
    {
        $document = self::tile(1.0);
        $document['lanes'][0]['steps'][] = Documents::step('breakup', ['cell' => 3.0, 'shift' => 10]);
        $paths = array_merge(...array_map(static fn (Hiding $one): array => array_column($one->change->operations, 'value', 'path'), self::hidings($document, 1.0)));
        self::assertSame(6.0, $paths['/lanes/0/steps/2/values/cell']);
        self::assertSame(100.0, $paths['/lanes/0/steps/2/values/shift']);
        $document['lanes'][0]['steps'][2] = Documents::step('breakup', ['cell' => ['parameter' => 'wide'], 'shift' => 10]);
        $driven = ['parameters' => [['id' => 'wide', 'name' => 'Wide', 'kind' => 'number', 'value' => 3]]] + $document;
        $paths = array_merge(...array_map(static fn (Hiding $one): array => array_column($one->change->operations, 'value', 'path'), self::hidings($driven, 1.0)));
        self::assertArrayNotHasKey('/lanes/0/steps/2/values/cell', $paths);
        self::assertArrayHasKey('/lanes/0/steps/2/values/shift', $paths);
    }

    public function testTwoChangesOfOnePlaceAreNotMadeTogether(): void
    {
        [$first, , $third] = self::hidings(self::tile(1.0), 1.0);
        self::assertNull($first->and($first));
        self::assertSame([...$first->label, ...$third->label], $first->and($third)?->label);
    }

    /** The mean of two reads that have nothing to do with each other has half of their energy; half a texel aside, all of it. */
    public function testDetailThatIsLostIsTold(): void
    {
        $alone = self::sharpness([]);
        self::assertEqualsWithDelta(1.0, $alone->kept($alone)['colour'], 1e-12);
        self::assertEqualsWithDelta(sqrt(0.5), self::sharpness(['opacity' => 50])->kept($alone)['colour'], 0.04);
        self::assertEqualsWithDelta(1.0, self::sharpness(['opacity' => 100])->kept($alone)['colour'], 0.04);
    }

    /** @param array<string, float> $over the second layer, if there is one */
    private static function sharpness(array $over): Sharpness
    {
        $lanes = [
            Documents::lane('main', Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => 2])),
            Documents::lane('aside', Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => 2]), Documents::step('shift', ['u' => 50 + 100 * 0.5 / 64, 'v' => 50 + 100 * 0.5 / 64])),
        ];
        $layers = [Documents::layer('ground', 'main'), ...($over === [] ? [] : [Documents::layer('over', 'aside', 'set', $over)])];
        $maps = TestMaps::noise('set', 64, 64);
        $patch = new Patch(Lowering::lower(Documents::reader()->read(Documents::whole($lanes, $layers)), $maps), $maps, Kernels::compiler());
        self::assertEqualsWithDelta(2 / 64, $patch->texel(), 1e-9);

        return Sharpness::of($patch, 2 / 64);
    }

    /**
     * @param array<string, mixed>      $document
     * @param ?\Closure(int, int): void $watch
     */
    private static function search(array $document, int $fetches, ?\Closure $watch = null): HidingOffers
    {
        return (new HideRepeat(Documents::reader(), self::maps(), Kernels::compiler()))->search($document, $fetches, $watch ?? static function (): void {});
    }

    /**
     * @param array<string, mixed> $document
     *
     * @return list<Hiding>
     */
    private static function hidings(array $document, float $length): array
    {
        return (new Hidings(self::maps(), $length))->of(Documents::reader()->read($document));
    }

    /**
     * @param list<Hiding> $hidings
     *
     * @return list<string> the steps that come in
     */
    private static function steps(array $hidings): array
    {
        $steps = [];
        foreach ($hidings as $one) {
            foreach ($one->change->operations as $operation) {
                $value = $operation['value'] ?? null;
                if (\is_array($value) && \is_string($value['step'] ?? null)) {
                    $steps[] = $value['step'];
                }
            }
        }

        return $steps;
    }

    /** @return array{format: string, name: string, lanes: list<array{id: string, name: string, steps: list<array<string, mixed>>}>, layers: list<array<string, string>>} */
    private static function tile(float $metres): array
    {
        return Documents::of([Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => $metres])]);
    }

    private static function maps(): TestMaps
    {
        return TestMaps::noise('set', 64, 64);
    }
}
