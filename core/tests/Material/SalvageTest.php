<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Material;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Problem;
use Rilta\Core\Material\Reader;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;

/** Of a document with mistakes, all is used that can be. */
final class SalvageTest extends TestCase
{
    /** @return iterable<string, array{list<array<string, mixed>>, list<array<string, mixed>>, string}> steps with a mistake, the steps that are left, where the mistake is */
    public static function lanes(): iterable
    {
        $origin = Documents::step('origin', ['seam' => 30.0]);
        $size = static fn (mixed $u): array => Documents::step('size', ['u' => $u]);
        $turn = Documents::step('turn', ['angle' => 20.0]);
        foreach (['nothing' => 0, 'less than nothing' => -2.5, 'a thousand kilometres' => 1e9, 'no number' => 'NaN', 'a list' => [1]] as $name => $u) {
            yield "a size of $name" => [[$origin, $size($u), $turn], [$origin, Documents::step('size'), $turn], '/lanes/0/steps/1/values/u'];
        }
        yield 'a second origin' => [[$origin, Documents::step('origin', ['space' => 'mesh']), $turn], [$origin, $turn], '/lanes/0/steps/1/step'];
        yield 'a step of a later version' => [[$origin, Documents::step('fold', ['times' => 3]), $size(2.0), $turn], [$origin, $size(2.0), $turn], '/lanes/0/steps/1/step'];
        yield 'forty steps' => [[$origin, ...array_fill(0, 39, $size(1.01))], [$origin, ...array_fill(0, Reader::MOST_STEPS - 1, $size(1.01))], '/lanes/0/steps'];
        yield 'a map that was deleted' => [[$origin, Documents::step('warp', ['by' => 'map', 'map' => 'lost/normal']), $turn], [$origin, $turn], '/lanes/0/steps/1/values/map'];
        yield 'a role that the set lacks' => [[$origin, Documents::step('warp', ['by' => 'map', 'map' => 'set/emission']), $turn], [$origin, $turn], '/lanes/0/steps/1/values/map'];
        yield 'too many taps' => [[$origin, Documents::step('breakup'), Documents::step('scales', ['count' => 'four']), Documents::step('frames', ['change' => 'fade']), $turn], [$origin, Documents::step('breakup'), Documents::step('scales', ['count' => 'four']), $turn], '/lanes/0/steps/3'];
    }

    /**
     * @param list<array<string, mixed>> $steps
     * @param list<array<string, mixed>> $rest
     */
    #[DataProvider('lanes')]
    public function testTheRestOfALaneIsShown(array $steps, array $rest, string $path): void
    {
        [$lowered, $problems] = self::salvaged(Documents::of($steps));
        self::assertContains($path, array_map(static fn (Problem $p): string => $p->path, $problems));
        self::assertEqualsWithDelta(self::colour(Documents::lower($rest)), self::colour($lowered), 1e-12);
        $this->expectException(InvalidDocument::class);
        Lowering::lower(Documents::reader()->read(Documents::of($steps)), TestMaps::noise());
    }

    public function testPlacesOfWhatFollowsStayThoseOfTheDocument(): void
    {
        [$lowered] = self::salvaged(Documents::of([Documents::step('origin'), Documents::step('fold'), Documents::step('size', ['u' => 3.0])]));
        self::assertSame(3.0, array_column($lowered->slots, 'value', 'path')['/lanes/0/steps/2/values/u'] ?? null);
        self::assertSame('/lanes/0/steps/2', $lowered->stations[1]->path);
    }

    public function testALaneWithoutAnOriginIsLeftOutWithItsLayers(): void
    {
        $good = Documents::lane('good', Documents::step('origin'));
        [$lowered, $problems] = self::salvaged(Documents::whole(
            [Documents::lane('bad', Documents::step('size')), $good],
            [Documents::layer('ground', 'good'), Documents::layer('upper', 'bad')],
        ));
        self::assertSame(['/lanes/0/steps/0/step', '/layers/1/lane'], array_map(static fn (Problem $p): string => $p->path, $problems));
        self::assertSame(['/layers/0'], array_column($lowered->layers, 'path'));
    }

    public function testAMapSetThatIsGoneLeavesTheOtherLayers(): void
    {
        $lane = Documents::lane('main', Documents::step('origin'));
        [$lowered, $problems] = self::salvaged(Documents::whole([$lane], [Documents::layer('ground', 'main'), Documents::layer('upper', 'main', 'lost')]));
        self::assertSame('/layers/1/set: there is no map set "lost"; there are set', (string) $problems[0]);
        self::assertEqualsWithDelta(self::colour(Documents::lower([Documents::step('origin')])), self::colour($lowered), 1e-12);
    }

    public function testWithNothingLeftTheSurfaceIsNeutral(): void
    {
        [$lowered, $problems] = self::salvaged(Documents::of([Documents::step('origin')], 'lost'));
        self::assertCount(1, $problems);
        self::assertSame([0.5, 0.5, 0.5], self::colour($lowered));
    }

    public function testWhatIsNoDocumentAtAllIsRefused(): void
    {
        $this->expectException(InvalidDocument::class);
        Documents::reader()->salvage(['format' => 'something else']);
    }

    public function testWhateverStandsInADocumentItIsReadOrNamed(): void
    {
        $random = new RandomDocuments(31);
        $dice = new \Random\Randomizer(new \Random\Engine\Mt19937(32));
        $odd = [null, true, -1, 0, 7, 1e300, -0.5, '', 'x', "\u{0}", str_repeat('y', 300), [], [1, 2], ['a' => 1], [[]], ['parameter' => 'p'], ['parameter' => []], [['x' => 'y']], [0.1, 0.2, 'c']];
        $layers = [Documents::layer('a', 'main', 'set', ['faces' => ['+y' => 'set'], 'opacity' => 50.0]), Documents::layer('b', 'main')];
        $parameters = [['id' => 'p', 'name' => 'P', 'unit' => 'm', 'min' => 0.0, 'max' => 2.0, 'value' => 1.0]];
        $mistakes = 0;
        for ($i = 0; $i < 400; ++$i) {
            $document = ['parameters' => $parameters, 'layers' => $layers] + $random->document();
            for ($n = 0; $n < 2; ++$n) {
                $document = self::spoilt($document, $odd[$dice->getInt(0, \count($odd) - 1)], $dice);
            }
            if (!\is_array($document)) {
                continue;
            }
            $named = [];
            foreach ($document as $key => $value) {
                $named[(string) $key] = $value;
            }
            try {
                [$lowered, $problems] = self::salvaged(['format' => 'rilta-material/1'] + $named);
                $mistakes += $problems === [] ? 0 : 1;
                self::assertNotSame('', Shader::of($lowered)->material);
                foreach ($problems as $problem) {
                    self::assertMatchesRegularExpression('~^(?:/[^/]*)*$~D', $problem->path);
                }
            } catch (InvalidDocument $e) {
                self::assertSame('/format', $e->problems[0]->path);
            }
        }
        self::assertGreaterThan(250, $mistakes);
    }

    /** The data with one place in it, anywhere, taken by something else. */
    private static function spoilt(mixed $data, mixed $by, \Random\Randomizer $dice): mixed
    {
        if (!\is_array($data) || $data === [] || $dice->getInt(0, 5) === 0) {
            return $by;
        }
        $key = $dice->pickArrayKeys($data, 1)[0];
        $data[$key] = self::spoilt($data[$key], $by, $dice);

        return $data;
    }

    /**
     * @param array<string, mixed> $document
     *
     * @return array{Lowered, list<Problem>}
     */
    private static function salvaged(array $document): array
    {
        $salvage = Documents::reader()->salvage($document);
        $lowered = Lowering::salvage($salvage->material, TestMaps::noise());

        return [$lowered, [...$salvage->problems, ...$lowered->problems]];
    }

    /** @return list<float|int> */
    private static function colour(Lowered $lowered): array
    {
        return Kernels::value($lowered->graph, $lowered->channels['baseColour'], SurfaceSample::at([0.3, 0.7, 1.9], [0.5, 0.6, 0.62])->inputs, $lowered->uniforms(), TestMaps::noise()->everything());
    }
}
