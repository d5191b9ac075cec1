<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Material;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Writer;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Numbers that follow a parameter. */
final class ParameterTest extends TestCase
{
    /** @return iterable<string, array{float, float, float, float}> value, factor, offset and the size that follows */
    public static function ties(): iterable
    {
        yield 'as it is' => [2.5, 1.0, 0.0, 2.5];
        yield 'scaled and moved' => [2.5, 2.0, -1.0, 4.0];
        yield 'backwards' => [2.5, -1.0, 5.0, 2.5];
        yield 'held at the least size' => [0.0, 1.0, 0.0, 0.001];
        yield 'held at the largest size' => [9.0, 1e5, 0.0, 10000.0];
    }

    #[DataProvider('ties')]
    public function testATiedNumberIsFactorTimesParameterPlusOffset(float $value, float $factor, float $offset, float $size): void
    {
        $lowered = Lowering::lower(Documents::reader()->read(self::document(['value' => $value], ['parameter' => 'wide', 'factor' => $factor, 'offset' => $offset])), TestMaps::noise());
        $found = Kernels::value($lowered->graph, $lowered->taps()[0]->at->uv, FloorLane::at(0.7, 0.2)->inputs, $lowered->uniforms());
        self::assertEqualsWithDelta([0.7 / $size, 0.2 / $size], $found, 1e-9 / $size);
    }

    public function testOneUniformDrivesAllThatFollow(): void
    {
        $document = self::document([], ['parameter' => 'wide'], ['parameter' => 'wide', 'factor' => 10.0]);
        $lowered = Lowering::lower(Documents::reader()->read($document), TestMaps::noise());
        $paths = array_column($lowered->slots, 'path');
        self::assertSame(1, \count(array_keys($paths, '/parameters/0/value', true)));
        self::assertContains('/lanes/0/steps/2/values/angle/factor', $paths);
        $uniforms = ['parameter_wide' => 4.0] + $lowered->uniforms();
        $tap = $lowered->taps()[0];
        $found = Kernels::values($lowered->graph, ['metres' => $tap->at->metres, 't' => $tap->at->t], FloorLane::at(0.7, 0.2)->inputs, $uniforms);
        self::assertEqualsWithDelta([4.0, 4.0], $found['metres'], 1e-9, 'another value of the uniform, another size');
        self::assertEqualsWithDelta([cos(deg2rad(40.0)), 0.0, -sin(deg2rad(40.0))], $found['t'], 1e-9, 'and another turn');
    }

    public function testWholeNumbersStayWhole(): void
    {
        $document = Documents::whole(
            [Documents::lane('main', Documents::step('origin', ['faces' => 'y']), Documents::step('cell', ['by' => 'number', 'columns' => 4, 'rows' => 1, 'gutter' => 0.0, 'index' => ['parameter' => 'wide', 'factor' => 1.0]]))],
            [Documents::layer('ground', 'main')],
            [['id' => 'wide', 'name' => 'Wide', 'kind' => 'number', 'value' => 1.6]],
        );
        $lowered = Lowering::lower(Documents::reader()->read($document), TestMaps::noise());
        self::assertEqualsWithDelta([0.5 + 0.25 / 2, 0.5], Kernels::value($lowered->graph, $lowered->taps()[0]->at->uv, FloorLane::at(0.5, 0.5)->inputs, $lowered->uniforms()), 1e-9);
    }

    public function testReadingWhatWasWrittenChangesNothing(): void
    {
        $json = Writer::json(Documents::reader()->read(self::document([], ['parameter' => 'wide', 'factor' => 3, 'offset' => 1])));
        self::assertStringContainsString('{"parameter":"wide","factor":3,"offset":1}', $json);
        self::assertSame($json, Writer::json(Documents::reader()->readJson($json)));
    }

    public function testASentenceTellsTheNumbersOfTheMoment(): void
    {
        $lane = Documents::reader()->read(self::document([], ['parameter' => 'wide', 'factor' => 2.0]))->lanes[0];
        self::assertStringContainsString('5 m per repeat', $lane->sentence());
    }

    /** @return iterable<string, array{array<string, mixed>, array<string, mixed>, string}> changes of the parameter and of the tie, and what is said */
    public static function mistakes(): iterable
    {
        yield 'nobody of that name' => [[], ['parameter' => 'tall'], '/lanes/0/steps/1/values/u/parameter: there is no parameter "tall" of the kind number; there are wide'];
        yield 'a factor in words' => [[], ['parameter' => 'wide', 'factor' => 'twice'], '/lanes/0/steps/1/values/u/factor: expected a number from -1000000 to 1000000, found "twice"'];
        yield 'a stranger in the tie' => [[], ['parameter' => 'wide', 'times' => 2], '/lanes/0/steps/1/values/u/times: is not known here'];
        yield 'a range that is none' => [['min' => 3.0, 'max' => 1.0], ['parameter' => 'wide'], '/parameters/0/max: expected more than the least, 3, found 1'];
        yield 'an unknown unit' => [['unit' => 'miles'], ['parameter' => 'wide'], '/parameters/0/unit: expected one of "", "m"'];
        yield 'a value in words' => [['value' => 'much'], ['parameter' => 'wide'], '/parameters/0/value: expected a number'];
    }

    /**
     * @param array<string, mixed> $parameter
     * @param array<string, mixed> $tie
     */
    #[DataProvider('mistakes')]
    public function testMistakesAreNamedWithTheirPlaces(array $parameter, array $tie, string $message): void
    {
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage($message);
        Documents::reader()->read(self::document($parameter, $tie));
    }

    public function testTwoParametersOfOneIdAreRefused(): void
    {
        $one = ['id' => 'wide', 'name' => 'Wide', 'kind' => 'number'];
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage('/parameters/1/id: the id "wide" is taken by /parameters/0');
        Documents::reader()->read(['parameters' => [$one, $one]] + self::document([], ['parameter' => 'wide']));
    }

    /**
     * @param array<string, mixed> $parameter
     * @param array<string, mixed> $u
     * @param array<string, mixed> $angle
     *
     * @return array<string, mixed>
     */
    private static function document(array $parameter, array $u, array $angle = []): array
    {
        $steps = [Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => $u])];
        if ($angle !== []) {
            $steps[] = Documents::step('turn', ['angle' => $angle]);
        }

        return Documents::whole([Documents::lane('main', ...$steps)], [Documents::layer('ground', 'main')], [$parameter + ['id' => 'wide', 'name' => 'Wide', 'kind' => 'number', 'min' => 0.0, 'max' => 10.0, 'value' => 2.5]]);
    }
}
