<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Judge;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Judge\StageSamples;
use Rilta\Core\Stage\Stage;

/** Where a stage is asked. */
final class StageSamplesTest extends TestCase
{
    public function testAsManyPointsLieOnEachKindOfObjectWhateverItsSize(): void
    {
        $samples = self::samples([self::object('a', 'floor'), self::object('b', 'cube', [0.0, 50.0, 0.0]), self::object('c', 'cube', [9.0, 50.0, 0.0])]);
        $heights = array_map(static fn (int $i): float => $samples->inputs['position'][3 * $i + 1] ?? 0.0, range(0, $samples->count - 1));
        $onFloor = array_filter($heights, static fn (float $y): bool => $y < 1.0);
        self::assertSame(StageSamples::COUNT, $samples->count);
        self::assertCount(StageSamples::COUNT / 2, $onFloor);
        // A cube looks six ways; where it is seen square on, its normal leads to the eye.
        $upwards = \count(array_filter(range(StageSamples::COUNT / 2, StageSamples::COUNT - 1), static fn (int $i): bool => ($samples->inputs['normal'][3 * $i + 1] ?? 0.0) > 0.9));
        self::assertEqualsWithDelta(StageSamples::COUNT / 12, $upwards, 4);
        self::assertEqualsCanonicalizing([1.0, 4.0, 16.0, 64.0], array_unique(array_map(static fn (float $one): float => round($one, 6), $samples->inputs['viewDistance'])));
        self::assertSame([1.0], array_values(array_unique($samples->inputs['facing'])));
    }

    public function testWhatIsHiddenOrWearsOtherThingsIsNotAsked(): void
    {
        self::assertNull(StageSamples::of(self::stage([['hidden' => true] + self::object('a', 'cube'), ['wears' => 7] + self::object('b', 'cube')]), null));
        self::assertNotNull(StageSamples::of(self::stage([['wears' => 7] + self::object('b', 'cube')]), 7));
        $both = StageSamples::of(self::stage([self::object('a', 'card')]), null, true) ?? self::fail('Nothing.');
        self::assertEqualsCanonicalizing([1.0, -1.0], array_values(array_unique($both->inputs['facing'])));
    }

    /** Two thousand objects are asked as quickly as a few. */
    public function testACrowdIsAskedHereAndThere(): void
    {
        $crowd = array_map(static fn (int $i): array => self::object("a$i", 'sphere', [2.0 * $i, 0.0, 0.0]), range(0, 1999));
        $samples = self::samples($crowd);
        self::assertSame(StageSamples::COUNT, $samples->count);
        $places = array_map(static fn (int $i): float => $samples->inputs['position'][3 * $i] ?? 0.0, range(0, $samples->count - 1));
        self::assertGreaterThan(3000.0, max(0.0, ...$places));
        self::assertLessThan(100.0, min($places));
    }

    /** @param list<array<string, mixed>> $objects */
    private static function samples(array $objects): StageSamples
    {
        return StageSamples::of(self::stage($objects), null) ?? self::fail('Nothing is asked.');
    }

    /** @param list<array<string, mixed>> $objects */
    private static function stage(array $objects): Stage
    {
        return Stage::read(['objects' => $objects] + Stage::first());
    }

    /**
     * @param array{float, float, float} $position
     *
     * @return array<string, mixed>
     */
    private static function object(string $id, string $mesh, array $position = [0.0, 0.0, 0.0]): array
    {
        return ['id' => $id, 'name' => $id, 'mesh' => $mesh, 'position' => $position, 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'seed' => 1, 'value' => 0];
    }
}
