<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Lowering\MultipassPlan;
use Rilta\Core\Lowering\NotMultipassable;
use Rilta\Core\Lowering\StepPass;
use Rilta\Core\Lowering\TapRecord;
use Rilta\Core\Lowering\UniformBinding;
use Rilta\Core\Material\Lane;
use Rilta\Core\Material\Layer;
use Rilta\Core\Material\MaskKind;
use Rilta\Core\Material\MaskTerm;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\StepUse;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\Parity\Lanes;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;

/** Steps that hand taps to one another come to what the whole lane comes to. */
final class MultipassTest extends TestCase
{
    private const SECONDS = 7.25;

    /** What a value may change in a repeat: maps here have 16 texels, slopes count twice and contrast at most as much again. */
    private const STEEPEST = 64.0;

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function lanes(): iterable
    {
        foreach (Lanes::all() as $name => $steps) {
            yield $name => [Documents::of($steps)];
            if (\count($steps) === 1) {
                continue;
            }
            yield "$name, and others around it" => [Documents::of([
                ...\array_slice($steps, 0, -1),
                Documents::step('bond', ['laid' => 'running', 'length' => 0.9, 'width' => 0.5]),
                ...\array_slice($steps, -1),
                Documents::step('scatter', ['by' => 'piece', 'turn' => 40, 'hue' => 20]),
                Documents::step('mirror'),
            ])];
        }
        $random = new RandomDocuments(41);
        for ($n = 0; $n < 60; ++$n) {
            yield "random $n" => [$random->layered()];
        }
    }

    /** @param array<string, mixed> $document */
    #[DataProvider('lanes')]
    public function testTheLegsComeToTheWhole(array $document): void
    {
        $maps = TestMaps::whole();
        $material = Documents::reader()->read($document);
        try {
            $multipass = Lowering::multipass($material, $maps);
        } catch (NotMultipassable $e) {
            self::assertTrue(self::holds($e->getMessage(), $material), "no multipass, and not for that reason: {$e->getMessage()}");

            return;
        }
        $whole = Lowering::salvage($material, $maps);
        $random = new RandomDocuments(7);
        $delta = self::delta($multipass);
        for ($n = 0; $n < 3; ++$n) {
            $point = $random->footprint();
            $found = self::drawn($multipass, $point, $maps);
            foreach (Kernels::values($whole->graph, $whole->channels, $point->inputs, $whole->uniforms(self::SECONDS), $maps->everything()) as $channel => $value) {
                foreach ($value as $i => $component) {
                    self::assertEqualsWithDelta($component, $found[$channel][$i], $delta, "$channel $i of point $n");
                }
            }
        }
    }

    /**
     * How far values may be apart. Colours that no step has tinted go to Oklab and back. Alone, a step does not know that its rate is
     * the same all over, so what it has turned has the 24 bits of a float.
     */
    private static function delta(MultipassPlan $multipass): float
    {
        $clocks = array_filter(array_merge(...array_values($multipass->lanes)), static fn (?StepPass $pass): bool => $pass?->clock === true);

        return 1e-6 + \count($clocks) * 2 ** -24 * self::STEEPEST;
    }

    /** Whether a document has what it is said to lack a multipass plan for. */
    private static function holds(string $reason, Material $material): bool
    {
        $layers = static fn (\Closure $has): bool => array_filter($material->layers, $has) !== [];
        $steps = static fn (\Closure $has): bool => array_filter(array_merge(...array_map(static fn (Lane $lane): array => $lane->steps, $material->lanes)), $has) !== [];
        $chosen = static fn (StepUse $use, string $control, mixed ...$values): bool => \in_array($use->values->document()[$control] ?? null, $values, true);

        return match (true) {
            str_contains($reason, 'Sides') => $layers(static fn (Layer $layer): bool => $layer->faces !== [] || $layer->tinted !== []),
            str_contains($reason, 'mask of joints') => $layers(static fn (Layer $layer): bool => array_filter($layer->mask, static fn (MaskTerm $term): bool => $term->kind === MaskKind::Joint) !== []),
            str_contains($reason, 'maps or a surface on its way') => $steps(static fn (StepUse $use): bool => $chosen($use, 'by', 'map')),
            str_contains($reason, 'Heights, families') => $steps(static fn (StepUse $use): bool => $use->kind->name() === 'choose' || $chosen($use, 'lean', true) || $chosen($use, 'outside', 'colour') || $chosen($use, 'relief', 'own', 'normals')),
            default => false,
        };
    }

    public function testMostMaterialsComeApart(): void
    {
        $apart = 0;
        $random = new RandomDocuments(41);
        for ($n = 0; $n < 60; ++$n) {
            try {
                Lowering::multipass(Documents::reader()->read($random->layered()), TestMaps::whole());
                ++$apart;
            } catch (NotMultipassable) {
            }
        }
        self::assertGreaterThan(44, $apart);
    }

    public function testAllOfTheDemoComesApartButWhatWeighsHeightsAlongItsOnlyLane(): void
    {
        $root = \dirname(__DIR__, 3);
        $maps = new MapFolder("$root/demo/maps", "$root/var/test/packs");
        $whole = [];
        foreach (glob("$root/demo/materials/*.json") ?: [] as $path) {
            try {
                Lowering::multipass(Documents::reader()->readJson((string) file_get_contents($path)), $maps);
            } catch (NotMultipassable $e) {
                $whole[basename($path, '.json')] = $e->getMessage();
            }
        }
        self::assertSame([
            'mooring-block' => 'Sides with sets or colours of their own are not handed on.',
            'shell-path' => 'Heights, families, colours around places and relief of its own size are not handed on.',
        ], $whole);
    }

    public function testALaneThatDoesNotComeApartIsWholeInTheEnd(): void
    {
        $apart = Documents::lane('main', Documents::step('origin'), Documents::step('turn', ['angle' => 20]));
        $map = Documents::lane('waves', Documents::step('origin'), Documents::step('warp', ['by' => 'map', 'map' => 'set/normal']));
        $layers = [['id' => 'ground', 'name' => 'Ground', 'lane' => 'main', 'set' => 'set'], ['id' => 'wet', 'name' => 'Wet', 'lane' => 'waves', 'set' => 'set', 'opacity' => 40]];
        $multipass = Lowering::multipass(Documents::reader()->read(['lanes' => [$apart, $map], 'layers' => $layers] + Documents::of([])), TestMaps::noise());
        self::assertSame(['waves'], $multipass->whole);
        self::assertNotSame([], $multipass->sums['main']);
        self::assertArrayNotHasKey('waves', $multipass->sums);
        // What stands on its own there is a pass all the same, for lanes that come apart.
        self::assertSame([true, false], array_map(static fn (?StepPass $pass): bool => $pass !== null, $multipass->lanes['waves']));
    }

    /** As browsers ask for steps that somebody may put in: each in a lane that nothing lies on. */
    public function testLanesThatNothingLiesOnAreOfNoMatter(): void
    {
        $lanes = [
            Documents::lane('ground', Documents::step('origin')),
            Documents::lane('a', Documents::step('origin'), Documents::step('warp', ['by' => 'map', 'map' => 'set/normal'])),
            Documents::lane('b', Documents::step('origin'), Documents::step('turn', ['angle' => 20])),
        ];
        $multipass = Lowering::multipass(Documents::reader()->read(['lanes' => $lanes, 'layers' => [['id' => 'ground', 'name' => 'Ground', 'lane' => 'ground', 'set' => '']]] + Documents::of([])), TestMaps::noise());
        self::assertSame([['a'], [true, false], [true, true]], [$multipass->whole, ...array_map(static fn (string $id): array => array_map(static fn (?StepPass $pass): bool => $pass !== null, $multipass->lanes[$id]), ['a', 'b'])]);
    }

    public function testMostLanesComeApart(): void
    {
        $apart = 0;
        foreach (Lanes::all() as $steps) {
            try {
                Lowering::multipass(Documents::reader()->read(Documents::of($steps)), TestMaps::whole());
                ++$apart;
            } catch (NotMultipassable) {
            }
        }
        self::assertGreaterThan(0.8 * \count(Lanes::all()), $apart);
    }

    public function testALegIsTheSameWhereverItStands(): void
    {
        [$origin, $size, $turn, $bond] = [Documents::step('origin'), Documents::step('size'), Documents::step('turn', ['angle' => 20]), Documents::step('bond')];
        $early = self::stepPass([$origin, $turn, $size, $bond], 1);
        $late = self::stepPass([$origin, $size, $bond, $turn], 3);
        self::assertEquals($early, $late);
        self::assertSame(['uv', 'dx', 'dy', 't', 'b', 'metres', 'slope', 'bend'], $early->changes());
        self::assertEqualsCanonicalizing(['/values/angle', '/values/pivotU', '/values/pivotV'], self::paths($early->numbers));
        self::assertSame(['uv'], self::stepPass([$origin, Documents::step('pan', ['u' => 1])], 1)->changes());
        self::assertTrue(self::stepPass([$origin, Documents::step('pan', ['u' => 1])], 1)->clock);
    }

    public function testNumbersOfParametersKeepTheirPlaces(): void
    {
        $document = Documents::of([Documents::step('origin'), Documents::step('turn', ['angle' => ['parameter' => 'wind']])]);
        $document['parameters'] = [['id' => 'wind', 'name' => 'Wind', 'kind' => 'number', 'value' => 30]];
        $stepPass = Lowering::multipass(Documents::reader()->read($document), TestMaps::noise())->lanes['main'][1] ?? self::fail('No pass.');
        self::assertContains('/parameters/0/value', self::paths($stepPass->shared));
    }

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function whole(): iterable
    {
        yield 'heights' => [Documents::of([Documents::step('origin', ['lean' => true])])];
        yield 'maps on the way' => [Documents::of([Documents::step('origin'), Documents::step('warp', ['by' => 'map', 'map' => 'set/normal'])])];
        yield 'a colour around' => [Documents::of([Documents::step('origin'), Documents::step('place', ['outside' => 'colour'])])];
        yield 'sides apart' => [['layers' => [['id' => 'ground', 'name' => 'Ground', 'lane' => 'main', 'set' => 'set', 'faces' => ['+y' => 'set']]]] + Documents::of([Documents::step('origin', ['faces' => 'six'])])];
        yield 'a set that is not there' => [Documents::of([Documents::step('origin')], 'gone')];
        yield 'too many taps' => [Documents::of([Documents::step('origin'), Documents::step('breakup'), Documents::step('hex-blend'), Documents::step('scales')])];
    }

    /** @param array<string, mixed> $document */
    #[DataProvider('whole')]
    public function testWhatDoesNotComeApartIsNotTorn(array $document): void
    {
        $this->expectException(NotMultipassable::class);
        Lowering::multipass(Documents::reader()->read($document), TestMaps::noise());
    }

    /**
     * @param list<UniformBinding> $slots
     *
     * @return list<string>
     */
    private static function paths(array $slots): array
    {
        return array_map(static fn (UniformBinding $slot): string => $slot->path, $slots);
    }

    /** @param list<array<string, mixed>> $steps */
    private static function stepPass(array $steps, int $i): StepPass
    {
        return Lowering::multipass(Documents::reader()->read(Documents::of($steps)), TestMaps::noise())->lanes['main'][$i] ?? self::fail('No pass.');
    }

    /** @return array<string, list<float|int>> the channels at a point */
    private static function drawn(MultipassPlan $multipass, SurfaceSample $point, TestMaps $maps): array
    {
        $uniforms = $multipass->end->uniforms(self::SECONDS);
        $sums = [];
        foreach ($multipass->lanes as $id => $passes) {
            $wanted = $multipass->sums[$id] ?? [];
            foreach ($wanted === [] ? [] : self::taps($passes, $point) as $tap) {
                foreach (Kernels::values($multipass->end->graph, $wanted, $tap + $point->inputs, $uniforms, $maps->everything()) as $name => $parts) {
                    $sums[$name] = array_map(static fn (float|int $a, float|int $b): float => (float) ($a + $b), $sums[$name] ?? array_fill(0, \count($parts), 0.0), $parts);
                }
            }
        }

        return Kernels::values($multipass->end->graph, $multipass->end->channels, $sums + $point->inputs, $uniforms, $maps->everything());
    }

    /**
     * @param list<?StepPass> $passes
     *
     * @return list<array<string, list<float|int>>> by input
     */
    private static function taps(array $passes, SurfaceSample $point): array
    {
        $taps = [[]];
        foreach (array_filter($passes) as $stepPass) {
            $uniforms = [Clock::UNIFORM => Clock::ticks(self::SECONDS)];
            foreach ([...$stepPass->numbers, ...$stepPass->shared] as $slot) {
                $uniforms[$slot->uniform] = $slot->value;
            }
            $uniforms += $stepPass->prelude->values($uniforms);
            $fields = [];
            foreach ($stepPass->taps as $n => $parts) {
                foreach ($parts as $part => $field) {
                    $fields["$n $part"] = $field;
                }
            }
            $next = [];
            foreach ($taps as $tap) {
                $found = Kernels::values($stepPass->graph, $fields, $tap + $point->inputs, $uniforms);
                foreach (array_keys($stepPass->taps) as $n) {
                    $made = [];
                    foreach (array_keys(TapRecord::PARTS) as $part) {
                        $made[TapRecord::input($part)] = $found["$n $part"];
                    }
                    $next[] = $made;
                }
            }
            $taps = $next;
        }

        return $taps;
    }
}
