<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Target;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Probe\ShaderCheck;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Target\Pass\SinglePrecision;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\Parity\Lanes;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;

/** What is hoisted and what is counted from elsewhere comes to the same; and what single precision needs is there. */
final class SinglePrecisionTest extends TestCase
{
    private const ORIGIN = [4096.0, -512.0, 20480.0];
    private const POINTS = 24;

    /** @return iterable<string, array{list<array<string, mixed>>}> */
    public static function lanes(): iterable
    {
        foreach (Lanes::all() as $name => $steps) {
            // Maps that are bound by name are the parity suite's.
            if (!str_contains((string) json_encode($steps), 'sheet') && !str_contains($name, 'choose')) {
                yield $name => [$steps];
            }
        }
    }

    /** @param list<array<string, mixed>> $steps */
    #[DataProvider('lanes')]
    public function testAPlaceIsTheSameWhereverItIsCountedFrom(array $steps): void
    {
        $maps = TestMaps::noise();
        $lowered = Documents::lower($steps, $maps);
        $fields = array_diff_key($lowered->channels, ['slope' => true]);
        $single = new SinglePrecision($lowered->graph, $lowered->prelude, $fields, true);
        $dice = new RandomDocuments(7);
        $points = array_fill_keys(array_keys(Surface::types()), []);
        for ($i = 0; $i < self::POINTS; ++$i) {
            foreach ($dice->footprint()->inputs as $name => $values) {
                array_push($points[$name], ...$values);
            }
        }
        $near = $points;
        foreach (['position', 'objectOrigin'] as $place) {
            $near[$place] = array_map(static fn (float $v, int $i): float => $v - self::ORIGIN[$i % 3], $points[$place], array_keys($points[$place]));
        }
        $uniforms = $lowered->uniforms(100.25);
        $values = $uniforms + array_combine(SinglePrecision::UNIFORMS, self::ORIGIN);
        $bindings = ShaderCheck::bindings();
        $was = Kernels::compiler()->compile($lowered->graph, $fields, $bindings)->points(self::POINTS, $uniforms, $maps->everything(), $points);
        $is = Kernels::compiler()->compile($single->graph, $single->fields, $bindings)->points(self::POINTS, $single->prelude->values($values) + $values, $maps->everything(), $near);
        $off = 0;
        foreach ($was as $channel => $components) {
            foreach ($components as $c => $numbers) {
                foreach ($numbers as $i => $number) {
                    $off += (int) (abs($number - $is[$channel][$c][$i]) > 1e-6);
                }
            }
        }
        self::assertLessThanOrEqual(1, $off, 'but for a point that lies on a border');
    }

    public function testWhatIsTheSameAllOverAPictureIsComputedOnce(): void
    {
        $lowered = Documents::lower([Documents::step('origin', ['frame' => 'own', 'turnX' => 20.0]), Documents::step('turn', ['angle' => 33.0]), Documents::step('pan', ['u' => 0.3, 'v' => 0.1]), Documents::step('bond')]);
        $single = new SinglePrecision($lowered->graph, $lowered->prelude, $lowered->channels);
        self::assertGreaterThan(4, self::sines($lowered->channels));
        self::assertSame(0, self::sines($single->fields));
        foreach (Reachable::from($single->fields) as $node) {
            $leaf = \in_array($node->op, [Op::Constant, Op::Uniform, Op::Vec], true);
            self::assertFalse(!$leaf && Prelude::holds($node), "a {$node->op->value} is left");
        }
    }

    public function testFarFromTheOriginNothingLargeMeetsWhatIsSmall(): void
    {
        $g = new Graph();
        $x = $g->x($g->input('position', Type::Vec3));
        $size = $g->uniform('size');
        $single = new SinglePrecision($g, new Prelude([]), [
            'inside' => $g->fract($g->div($x, $size)),
            'cell' => $g->toUint($g->floor($g->div($x, $size))),
            'beside' => $g->sub($x, $g->mul($g->floor($g->div($x, $size)), $size)),
            'turned' => $g->neg($g->fract($g->mul($g->select($g->less($g->input('facing', Type::Float), 0.0), -1.0, 1.0), $g->div($x, $size)))),
            'right' => $g->select($g->less($x, 99_999.0), 1.0, 0.0),
        ], true);
        // As single precision would: every number that meets a place has to be small.
        $values = $single->prelude->values(['size' => 0.001] + array_combine(SinglePrecision::UNIFORMS, [100_000.0, 0.0, 0.0]));
        foreach ($values as $name => $value) {
            self::assertTrue(\is_int($value) || abs($value) <= 1.0, "$name is $value");
        }
        $at = static fn (float $local): array => Kernels::values($single->graph, $single->fields, ['position' => [$local, 0.0, 0.0], 'facing' => [-1.0]], $values + ['size' => 0.001]);
        $found = $at(0.12345);
        self::assertEqualsWithDelta([0.45, -0.55, 0.00045], [$found['inside'][0], $found['turned'][0], $found['beside'][0]], 1e-7);
        self::assertSame([100_000_123], $found['cell']);
        self::assertSame([0.0, 1.0], [$at(-0.5)['right'][0], $at(-1.5)['right'][0]]);
        self::assertSame([(-1) & 0xFFFFFFFF], Kernels::values($single->graph, ['cell' => $single->fields['cell']], ['position' => [-0.0005, 0.0, 0.0]], $single->prelude->values(['size' => 0.001] + array_fill_keys(SinglePrecision::UNIFORMS, 0.0)) + ['size' => 0.001])['cell']);
    }

    public function testItTellsHowFarItIsExact(): void
    {
        self::assertNull(self::within());
        self::assertNull(self::within(Documents::step('bond'), Documents::step('breakup', ['turn' => 180.0])));
        // Turned about the world's origin by what differs from object to object: 4096 repeats of half a metre.
        self::assertEqualsWithDelta(2048.0, self::within(Documents::step('scatter', ['turn' => 90.0])), 1.0);
    }

    /** @param array<string, mixed> $steps */
    private static function within(array ...$steps): ?float
    {
        $lowered = Documents::lower([Documents::step('origin'), Documents::step('size', ['u' => 0.5]), ...array_values($steps)]);

        return Shader::of($lowered, true)->exactWithin($lowered, array_values(array_filter($lowered->taps(), static fn (Tap $tap): bool => $tap->face === 'x')));
    }

    /** @param array<string, Node> $fields */
    private static function sines(array $fields): int
    {
        return \count(array_filter(Reachable::from($fields), static fn (Node $node): bool => \in_array($node->op, [Op::Sin, Op::Cos], true)));
    }
}
