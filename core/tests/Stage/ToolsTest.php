<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Stage;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Stage\Copies;
use Rilta\Core\Stage\PaintFill;
use Rilta\Core\Stage\Placed;
use Rilta\Core\Stage\Stage;

/** What is scattered over surfaces, and painted on whole objects. */
final class ToolsTest extends TestCase
{
    public function testCopiesLieEvenlyOverWhatIsNotTooSteep(): void
    {
        $pebble = new Placed('pebble', 'Pebble', 'boulder', [9.0, 9.0, 9.0], [0.0, 0.0, 0.0], [0.1, 0.1, 0.1]);
        $ball = new Placed('ball', 'Ball', 'sphere', [3.0, 1.0, -2.0], [0.0, 20.0, 0.0], [2.0, 2.0, 2.0]);
        $mesh = ReadyMade::Sphere->mesh();
        $copies = Copies::over($pebble, $ball, $mesh, 400, 60.0, false, 180.0, 20.0, 3, ['ball', 'pebble-2']);
        self::assertCount(400, $copies);
        self::assertSame(['pebble-3', 'pebble-4'], \array_slice(array_column($copies, 'id'), 0, 2));
        [$sum, $heights] = [[0.0, 0.0, 0.0], []];
        $centre = $ball->point(Vec::scale(Vec::add($mesh->positions->triple(0), $mesh->positions->triple($mesh->positions->count() - 1)), 0.5));
        foreach ($copies as $one) {
            $out = Vec::sub($one->position, $centre);
            self::assertEqualsWithDelta(1.0, Vec::length($out), 0.01, 'on the surface of a ball of 2 m');
            self::assertGreaterThan(cos(deg2rad(63)), $out[1], 'not where it is steep');
            self::assertSame([0.0, 0.0], [$one->turn[0], $one->turn[2]], 'upright');
            $heights[] = $out[1];
            $sum = Vec::add($sum, $out);
        }
        self::assertLessThan(0.1 * 400, hypot($sum[0], $sum[2]), 'as many on every side');
        // On a cap the height is spread evenly (Archimedes).
        self::assertEqualsWithDelta(0.75, array_sum($heights) / 400, 0.02);
        self::assertEquals($copies, Copies::over($pebble, $ball, $mesh, 400, 60.0, false, 180.0, 20.0, 3, ['ball', 'pebble-2']));
        self::assertCount(400, array_unique(array_column($copies, 'seed')));
        self::assertCount(200, Stage::read(['format' => Stage::FORMAT, 'objects' => array_map(Copies::document(...), \array_slice($copies, 0, 200))])->objects);
    }

    public function testOverLargeTrianglesCopiesLieAsCloselyEverywhere(): void
    {
        $one = new Placed('a', 'A', 'cube', [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]);
        $floor = new Placed('floor', 'Floor', 'floor', [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]);
        $counts = array_fill(0, 16, 0);
        foreach (Copies::over($one, $floor, ReadyMade::Floor->mesh(), 1600, 10.0, false, 0.0, 0.0, 8, []) as $copy) {
            ++$counts[4 * (int) floor(($copy->position[0] + 60) / 30) + (int) floor(($copy->position[2] + 60) / 30)];
        }
        // A hundred in each sixteenth, give or take four times the root of that.
        self::assertGreaterThan(60, min($counts));
        self::assertLessThan(140, max($counts));
    }

    public function testCopiesThatLeanStandAlongTheNormal(): void
    {
        $pebble = new Placed('pebble', 'Pebble', 'boulder', [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]);
        $ball = new Placed('ball', 'Ball', 'sphere', [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [2.0, 2.0, 2.0]);
        $mesh = ReadyMade::Sphere->mesh();
        $middle = Vec::scale($mesh->positions->triple(0), 0.0);
        [$least, $most] = [\INF, -\INF];
        foreach ($mesh->positions->triples() as [, $y]) {
            [$least, $most] = [min($least, $y), max($most, $y)];
        }
        $middle[1] = ($least + $most);
        $all = Copies::over($pebble, $ball, $mesh, 100, 180.0, true, 180.0, 0.0, 5, []);
        foreach ($all as $one) {
            $out = Vec::unit(Vec::sub($one->position, $middle));
            self::assertGreaterThan(0.995, Vec::dot($one->axes[1], $out));
        }
        $sides = array_map(static fn (Placed $one): float => $one->axes[0][0], $all);
        sort($sides);
        self::assertGreaterThan(1.0, $sides[99] - $sides[0], 'and each is turned otherwise');
    }

    public function testOverNothingLiesNothing(): void
    {
        $one = new Placed('a', 'A', 'cube', [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]);
        $card = new Placed('card', 'Card', 'card', [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]);
        self::assertSame([], Copies::over($one, $card, ReadyMade::Card->mesh(), 10, 10.0, false, 0.0, 0.0, 1, []));
    }

    public function testAFillFollowsSlopeHeightAndSection(): void
    {
        $mesh = ReadyMade::Sphere->mesh();
        $lying = new Placed('a', 'A', 'sphere', [0.0, 3.0, 0.0], [90.0, 0.0, 0.0], [1.0, 1.0, 1.0]);
        $before = str_repeat("\x40\x10\x20\x30", $mesh->positions->count());
        $slope = (new PaintFill('slope', 1.0, 80.0, 40.0))->of($lying, $mesh, $before, 2);
        $height = (new PaintFill('height', 0.0, 3.0, 3.5))->of($lying, $mesh, $before, 0);
        $top = $mesh->primitives[0]->material;
        $section = (new PaintFill('section', 0.5, section: $top))->of($lying, $mesh, '', 3);
        foreach (range(0, $mesh->positions->count() - 1) as $v) {
            $smooth = static fn (float $t): float => ($t = max(0.0, min(1.0, $t))) ** 2 * (3 - 2 * $t);
            $steep = rad2deg(acos(max(-1.0, min(1.0, $lying->normal($mesh->attributes['NORMAL']->triple($v))[1]))));
            self::assertEqualsWithDelta(0x20 + (255 - 0x20) * $smooth((80 - $steep) / 40), \ord($slope[4 * $v + 2]), 0.51);
            self::assertSame(["\x40", "\x10", "\x30"], [$slope[4 * $v], $slope[4 * $v + 1], $slope[4 * $v + 3]], 'the other channels stay');
            $up = $lying->point($mesh->positions->triple($v))[1];
            self::assertEqualsWithDelta(0x40 * (1 - $smooth(($up - 3.0) / 0.5)), \ord($height[4 * $v]), 0.51);
            $in = (int) $mesh->attributes['_SECTION']->at($v)[0] === 0;
            self::assertSame([0, $in ? 128 : 0], [\ord($section[4 * $v]), \ord($section[4 * $v + 3])]);
        }
        self::assertSame(str_repeat("\x40\x10\xFF\x30", $mesh->positions->count()), (new PaintFill('all', 1.0))->of($lying, $mesh, $before, 2));
    }

    public function testPatchesOfNoiseAreAsLargeAsIsSaidAndOtherSeedsGiveOthers(): void
    {
        $mesh = ReadyMade::Ground->mesh();
        $object = new Placed('a', 'A', 'ground', [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]);
        $fill = static fn (float $size, int $seed): array => array_map(ord(...), str_split((new PaintFill('noise', 1.0, 0.35, 0.65, $size, $seed))->of($object, $mesh, '', 0), 4));
        $apart = static function (int ...$values): float {
            // From one vertex of the grid to the next.
            $sum = 0;
            for ($v = 1; $v < 90; ++$v) {
                $sum += abs($values[$v] - $values[$v - 1]);
            }

            return $sum / 89;
        };
        [$fine, $coarse] = [$fill(3.0, 1), $fill(60.0, 1)];
        self::assertGreaterThan(3 * $apart(...\array_slice($coarse, 0, 90)), $apart(...\array_slice($fine, 0, 90)));
        foreach ([$fine, $fill(3.0, 2)] as $values) {
            self::assertEqualsWithDelta(127.5, array_sum($values) / \count($values), 12);
            self::assertSame([true, true], [\in_array(0, $values, true), \in_array(255, $values, true)]);
        }
        self::assertNotSame($fine, $fill(3.0, 2));
        self::assertSame($fine, $fill(3.0, 1));
    }
}
