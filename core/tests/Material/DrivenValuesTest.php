<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Material;

use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\NumberBinding;
use Rilta\Core\Material\Parameter;
use Rilta\Core\Material\ParameterKind;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** What values come to that follow parameters, and parameters in variants. The browser says the same beside its fields: by the file of vectors. */
final class DrivenValuesTest extends TestCase
{
    private const VECTORS = __DIR__ . '/driven.json';

    public function testTheVectorsAreWhatIsComputed(): void
    {
        $made = json_encode(['ties' => self::ties(), 'seeds' => self::seeds(), 'variants' => self::variants()], \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION | \JSON_UNESCAPED_SLASHES) . "\n";
        if (getenv('RILTA_WRITE_VECTORS') !== false) {
            file_put_contents(self::VECTORS, $made);
        }
        self::assertStringEqualsFile(self::VECTORS, $made, 'run the test with RILTA_WRITE_VECTORS=1 after a change that is meant');
    }

    /** The graph holds a number in its range as the tie says. */
    public function testTiesComeToWhatTheCodeMakesOfThem(): void
    {
        foreach (self::ties() as ['hard' => $hard, 'parameter' => $value, 'factor' => $factor, 'offset' => $offset, 'number' => $number]) {
            if ($hard !== [0.001, 10000.0]) {
                continue;
            }
            $document = Documents::whole(
                [Documents::lane('main', Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => ['parameter' => 'p', 'factor' => $factor, 'offset' => $offset]]))],
                [Documents::layer('ground', 'main')],
                [['id' => 'p', 'name' => 'P', 'kind' => 'number', 'min' => -10.0, 'max' => 10.0, 'value' => $value]],
            );
            $lowered = Lowering::lower(Documents::reader()->read($document), TestMaps::noise());
            self::assertEqualsWithDelta([$number, $number], Kernels::value($lowered->graph, $lowered->taps()[0]->at->metres, FloorLane::at(0.5, 0.5)->inputs, $lowered->uniforms()), 1e-9 * abs($number));
        }
    }

    /** @return list<array{hard: array{float, float}, whole: bool, default: float, parameter: float, factor: float, offset: float, number: float}> */
    private static function ties(): array
    {
        $dice = new Randomizer(new Mt19937(11));
        $ties = [];
        foreach ([[0.001, 10000.0, false], [-1.0, 1.0, false], [0.0, 7.0, true], [-3.0, 3.0, true]] as [$least, $most, $whole]) {
            $control = new NumberControl(new ControlMeta('n', 'N', ''), Unit::None, 1.0, [$least, $most], [$least, $most], 0.1, false, $whole);
            for ($n = 0; $n < 12; ++$n) {
                [$value, $factor, $offset] = [$dice->getInt(-800, 800) / 128, $dice->getInt(-512, 512) / 128, $dice->getInt(-256, 256) / 128];
                $tie = new NumberBinding(self::parameter($value), $factor, $offset, $control);
                $ties[] = ['hard' => [$least, $most], 'whole' => $whole, 'default' => 1.0, 'parameter' => $value, 'factor' => $factor, 'offset' => $offset, 'number' => $tie->value];
            }
        }

        return $ties;
    }

    /** @return list<array{float, int}> a parameter, and the seed that follows it */
    private static function seeds(): array
    {
        $seeds = [];
        foreach ([0.0, 0.49, 0.5, 1.5, 2.5, 7.0, 41.999, -3.0, 65536.5] as $value) {
            $document = Documents::whole(
                [Documents::lane('main', Documents::step('origin'), Documents::step('breakup', ['seed' => ['parameter' => 'p']]))],
                [Documents::layer('ground', 'main')],
                [['id' => 'p', 'name' => 'P', 'kind' => 'number', 'min' => -10.0, 'max' => 100000.0, 'value' => $value]],
            );
            $seeds[] = [$value, Documents::reader()->read($document)->lanes[0]->steps[1]->values->seed('seed')];
        }

        return $seeds;
    }

    /** @return list<array{document: array<mixed>, id: string, values: array<string, mixed>, numbers: array<string, float>}> */
    private static function variants(): array
    {
        $document = Documents::whole([Documents::lane('main', Documents::step('origin'))], [Documents::layer('ground', 'main')], [
            ['id' => 'size', 'name' => 'Size', 'kind' => 'number', 'min' => 0.0, 'max' => 9.0, 'value' => 2.0],
            ['id' => 'paint', 'name' => 'Paint', 'kind' => 'colour', 'value' => [1.0, 0.5, 0.25]],
            ['id' => 'wet', 'name' => 'Wet', 'kind' => 'switch', 'value' => false],
            ['id' => 'stuff', 'name' => 'Stuff', 'kind' => 'set', 'value' => 'set'],
        ]);
        $document['variants'] = [
            ['id' => 'a', 'name' => 'A', 'base' => '', 'values' => ['size' => 4.0, 'wet' => true]],
            ['id' => 'b', 'name' => 'B', 'base' => 'a', 'values' => ['paint' => [0.0, 0.0, 1.0], 'stuff' => 'other']],
            ['id' => 'c', 'name' => 'C', 'base' => 'b', 'values' => ['size' => 0.5, 'wet' => false]],
        ];
        $variants = Documents::reader()->read($document)->variants;

        return array_map(static fn (string $id): array => ['document' => $document, 'id' => $id, 'values' => $variants->values($id), 'numbers' => $variants->numbers($id)], ['', 'a', 'b', 'c']);
    }

    private static function parameter(float $value): Parameter
    {
        return new Parameter('/parameters/0', 'p', 'P', ParameterKind::Number, Unit::None, -10.0, 10.0, 0.1, $value);
    }
}
