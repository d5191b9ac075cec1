<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Material;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Format\VariantTable;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\ReferenceControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\ParameterKind;
use Rilta\Core\Material\Schema;
use Rilta\Core\Material\Upgrade;
use Rilta\Core\Material\Writer;
use Rilta\Core\Raster\Image;
use Rilta\Core\Step\Steps;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Parameters that are colours, switches, maps and map sets, and documents of older versions. */
final class KindTest extends TestCase
{
    private const PARAMETERS = [
        ['id' => 'paint', 'name' => 'Paint', 'kind' => 'colour', 'value' => [1, 0.5, 0]],
        ['id' => 'over', 'name' => 'Turned over', 'kind' => 'switch', 'value' => false],
        ['id' => 'where', 'name' => 'Where', 'kind' => 'map', 'value' => 'dark/roughness'],
        ['id' => 'stuff', 'name' => 'Stuff', 'kind' => 'set', 'value' => 'dark'],
    ];

    private const VARIANTS = [
        ['id' => 'other', 'name' => 'Other', 'values' => ['paint' => [0, 0, 1], 'over' => true, 'where' => 'light/roughness', 'stuff' => 'light']],
        ['id' => 'bare', 'name' => 'Bare', 'base' => 'other', 'values' => ['where' => '', 'stuff' => '', 'over' => false]],
    ];

    /**
     * @param array<mixed> $more
     *
     * @return array<mixed>
     */
    private static function document(array $more = []): array
    {
        $follow = static fn (string $id): array => ['parameter' => $id];
        $layers = [
            ['set' => $follow('stuff')] + Documents::layer('low', 'a'),
            Documents::layer('high', 'a', '', ['finish' => ['values' => ['tint' => $follow('paint'), 'roughnessInvert' => $follow('over'), 'roughnessFactor' => 100]], 'mask' => [['kind' => 'map', 'values' => ['map' => $follow('where'), 'invert' => $follow('over')]]]]),
        ];

        return $more + ['variants' => self::VARIANTS] + Documents::whole([Documents::lane('a', Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['linked' => $follow('over'), 'u' => 2.0, 'v' => 5.0]))], $layers, self::PARAMETERS);
    }

    private static function maps(): TestMaps
    {
        return (new TestMaps())->add('dark', ['roughness' => new Image(1, 1, 1, [51])])->add('light', ['roughness' => new Image(1, 1, 1, [204])]);
    }

    private static function worn(string $variant): Lowered
    {
        $material = Documents::reader()->read(self::document());

        return Lowering::lower($variant === '' ? $material : Documents::reader()->read($material->variants->applied(self::document(), $variant)), self::maps());
    }

    /** @return array<string, list<float|int>> */
    private static function read(Lowered $lowered): array
    {
        return Kernels::values($lowered->graph, ['colour' => $lowered->channels['baseColour'], 'roughness' => $lowered->channels['roughness'], 'metres' => $lowered->taps()[0]->at->metres], FloorLane::at(0.1, 0.1)->inputs, $lowered->uniforms(), self::maps()->everything());
    }

    public function testValuesOfEveryKindFollowTheirParameterInEveryVariant(): void
    {
        $half = Srgb::toLinear(0.5);
        $grey = 0.5;
        // How much paint there is: the map as it is, or turned over.
        foreach (['' => [[1, $half, 0], 0.2, 0.2, 0.7, [2.0, 5.0]], 'other' => [[0, 0, 1], 1 - 0.8, 0.8, 0.3, [2.0, 2.0]], 'bare' => [[0, 0, 1], 1.0, 0.7, 0.7, [2.0, 5.0]]] as $id => [$paint, $share, $below, $above, $metres]) {
            $found = self::read(self::worn($id));
            foreach ([0, 1, 2] as $c) {
                $ground = $id === 'bare' ? 1.0 : $grey;
                self::assertEqualsWithDelta($paint[$c] * $share + $ground * (1 - $share), $found['colour'][$c], 1e-6, "$id, $c");
            }
            self::assertEqualsWithDelta($above * $share + $below * (1 - $share), $found['roughness'][0], 1e-6, $id);
            self::assertEqualsWithDelta($metres, $found['metres'], 1e-9, $id);
        }
    }

    public function testColoursAndSwitchesAreUniformsAndOtherMapsOfTheSameKindNeedNoOtherCode(): void
    {
        [$plain, $other] = [self::worn(''), self::worn('other')];
        self::assertSame(Shader::of($plain)->material, Shader::of($other)->material);
        $numbers = Documents::numbersOf(self::document(), 'other');
        self::assertSame(['/parameters/0/value/0' => 0.0, '/parameters/0/value/1' => 0.0, '/parameters/0/value/2' => 1.0, '/parameters/1/value' => 1.0], $numbers);
        self::assertEquals($other->uniforms(), $plain->withNumbers($numbers)->uniforms());
    }

    public function testReadingWhatWasWrittenChangesNothingAndAllSetsAreNamed(): void
    {
        $material = Documents::reader()->read(self::document());
        $json = Writer::json($material);
        self::assertStringContainsString('{"id":"paint","name":"Paint","kind":"colour","value":[1,0.5,0]}', $json);
        self::assertStringContainsString('"set":{"parameter":"stuff"}', $json);
        self::assertStringContainsString('"tint":{"parameter":"paint"}', $json);
        self::assertSame($json, Writer::json(Documents::reader()->readJson($json)));
        self::assertEqualsCanonicalizing(['dark', 'light'], $material->sets());
    }

    /** @return iterable<string, array{array<mixed>, string}> parts of the document, and what is said */
    public static function mistakes(): iterable
    {
        $parameter = static fn (array $one): array => ['parameters' => [$one + ['id' => 'paint', 'name' => 'Paint', 'kind' => 'colour']], 'variants' => [], 'layers' => [Documents::layer('low', 'a', 'dark')], 'lanes' => [Documents::lane('a', Documents::step('origin'))]];
        yield 'no kind' => [$parameter(['kind' => 'song']), '/parameters/0/kind: expected one of "number", "colour", "switch", "map", "set", found "song"'];
        yield 'a number for a colour' => [$parameter(['value' => 3]), '/parameters/0/value: expected red, green and blue from 0 to 1, found 3'];
        yield 'a range of a colour' => [$parameter(['min' => 3]), '/parameters/0/min: is not known here'];
        yield 'another kind' => [['layers' => [['set' => ['parameter' => 'where']] + Documents::layer('low', 'a')]], '/layers/0/set/parameter: there is no parameter "where" of the kind set; there are stuff'];
        yield 'a switch for a colour' => [['layers' => [Documents::layer('low', 'a', 'dark', ['finish' => ['values' => ['tint' => ['parameter' => 'over']]]])]], '/layers/0/finish/values/tint/parameter: there is no parameter "over" of the kind colour; there are paint'];
        yield 'a variant of another kind' => [['variants' => [['id' => 'v', 'name' => 'V', 'values' => ['over' => 1]]]], '/variants/0/values/over: expected true or false, found 1'];
    }

    /** @param array<mixed> $more */
    #[DataProvider('mistakes')]
    public function testMistakesAreNamedWithTheirPlaces(array $more, string $message): void
    {
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage($message);
        Documents::reader()->read(self::document($more));
    }

    public function testATableHoldsEveryKindAndComesBack(): void
    {
        $material = Documents::reader()->read(self::document());
        $csv = VariantTable::csv($material);
        self::assertSame("variant,name,base,paint,over,where,stuff\r\n,Test,,\"1 0.5 0\",false,dark/roughness,dark\r\nother,Other,,\"0 0 1\",true,light/roughness,light\r\nbare,Bare,other,,false,none,none\r\n", $csv);
        self::assertEquals([['id' => 'other', 'name' => 'Other', 'base' => '', 'values' => ['paint' => [0.0, 0.0, 1.0], 'over' => true, 'where' => 'light/roughness', 'stuff' => 'light']], ['id' => 'bare', 'name' => 'Bare', 'base' => 'other', 'values' => ['where' => '', 'stuff' => '', 'over' => false]]], VariantTable::read($material, $csv));
        try {
            VariantTable::read($material, "variant,paint,over,where\nother,red,maybe,Somewhere");
            self::fail('all cells are wrong');
        } catch (InvalidDocument $e) {
            self::assertSame(['/2/paint', '/2/over', '/2/where'], array_column($e->problems, 'path'));
            self::assertStringContainsString('expected a colour as #rrggbb', $e->problems[0]->message);
        }
    }

    /**
     * @param mixed $u    of the second of two places
     * @param mixed $cell of the same
     *
     * @return array<mixed>
     */
    private static function placed(mixed $u, mixed $cell, mixed $seed): array
    {
        $row = ['u' => $u, 'v' => 1.0, 'width' => 1.0, 'height' => 1.0, 'turn' => 0.0, 'cell' => $cell];
        $steps = [Documents::step('origin', ['faces' => 'y']), Documents::step('place', ['u' => 0.5, 'v' => 0.5, 'more' => [$row]]), Documents::step('scatter', ['by' => 'object', 'shift' => 100, 'seed' => $seed])];

        return Documents::whole([Documents::lane('a', ...$steps)], [Documents::layer('low', 'a')], [['id' => 'where', 'name' => 'Where', 'kind' => 'number', 'min' => 0.0, 'max' => 9.0, 'value' => 2.3]]);
    }

    public function testNumbersInRowsAndSeedsFollowParametersToo(): void
    {
        $tie = ['parameter' => 'where', 'factor' => 2.0, 'offset' => 0.4];
        $document = self::placed($tie, $tie, ['parameter' => 'where']);
        $material = Documents::reader()->read($document);
        $json = Writer::json($material);
        self::assertStringContainsString('"more":[{"u":{"parameter":"where","factor":2,"offset":0.4},"v":1,', $json);
        self::assertStringContainsString('"seed":{"parameter":"where"}', $json);
        self::assertSame($json, Writer::json(Documents::reader()->readJson($json)));
        $lowered = Lowering::lower($material, TestMaps::noise());
        self::assertContains('/lanes/0/steps/1/values/more/0/u/factor', array_column($lowered->slots, 'path'));
        foreach ([[2.3, 2], [4.0, 4]] as [$value, $seed]) {
            // The same numbers, written out: the place stands at 2 · value + 0.4, the seed is the nearest whole number.
            $written = Lowering::lower(Documents::reader()->read(self::placed(2 * $value + 0.4, floor(2 * $value + 0.9), $seed)), TestMaps::noise());
            $at = FloorLane::at(2 * $value + 0.3, 1.1)->inputs;
            $of = static fn (Lowered $one): array => Kernels::values($one->graph, ['uv' => $one->taps()[0]->at->uv, 'index' => $one->taps()[0]->index ?? $one->graph->float(-1)], $at, $one->withNumbers(['/parameters/0/value' => $value])->uniforms());
            self::assertEqualsWithDelta($of($written), $of($lowered), 1e-9, "$value");
        }
        // Keys over time too, as long as they stand in order.
        $keys = static fn (float $factor): array => Documents::whole([Documents::lane('a', Documents::step('origin'), Documents::step('reach', ['input' => 'keys', 'keys' => [['at' => 0, 'x' => ['parameter' => 'where', 'factor' => 0.5], 'y' => 0], ['at' => ['parameter' => 'where', 'factor' => $factor], 'x' => 0, 'y' => 0]]]))], [Documents::layer('low', 'a')], [['id' => 'where', 'name' => 'Where', 'kind' => 'number', 'value' => 0.5]]);
        self::assertSame([], Documents::reader()->salvage($keys(4))->problems);
        self::assertSame(['/lanes/0/steps/1/values/keys'], array_column(Documents::reader()->salvage($keys(0))->problems, 'path'));
        $lost = Documents::reader()->salvage(self::placed(['parameter' => 'nobody'], 1, 1))->problems;
        self::assertSame(['/lanes/0/steps/1/values/more/0/u/parameter'], array_column($lost, 'path'));
    }

    public function testEveryControlFollowsOneKindOrNone(): void
    {
        $face = new ControlMeta('it', 'It', '');
        $kinds = array_map(ParameterKind::of(...), [new SeedControl($face), ReferenceControl::sheet($face), ReferenceControl::set($face), ReferenceControl::map($face), ReferenceControl::family($face), ReferenceControl::layer($face), new ChoiceControl($face, ['a' => 'A'], 'a')]);
        self::assertSame([ParameterKind::Number, ParameterKind::Set, ParameterKind::Set, ParameterKind::Map, null, null, null], $kinds);
        foreach (ParameterKind::cases() as $kind) {
            self::assertSame($kind, ParameterKind::of($kind->control()));
        }
    }

    public function testDocumentsOfTheFirstVersionBecomeThoseOfToday(): void
    {
        $old = ['format' => 'rilta-material/1', 'name' => 'Old', 'parameters' => [['id' => 'wide', 'name' => 'Wide', 'value' => 3.0]], 'lanes' => [Documents::lane('a', Documents::step('origin'), Documents::step('size', ['u' => ['parameter' => 'wide']]))], 'layers' => [Documents::layer('low', 'a')]];
        $new = Upgrade::latest($old);
        self::assertSame(Material::FORMAT, $new['format']);
        self::assertSame([['id' => 'wide', 'name' => 'Wide', 'value' => 3.0, 'kind' => 'number']], $new['parameters']);
        self::assertSame($new, Upgrade::latest($new), 'what is of today stays as it is');
        $json = Writer::json(Documents::reader()->read($old));
        self::assertStringStartsWith('{"format":"rilta-material/2","name":"Old","parameters":[{"id":"wide","name":"Wide","kind":"number",', $json);
        self::assertSame($json, Writer::json(Documents::reader()->readJson($json)));
        self::assertSame(['format' => 'rilta-material/9'], Upgrade::latest(['format' => 'rilta-material/9']), 'what nobody knows is left alone');
        self::assertSame(['format' => Material::FORMAT, 'parameters' => 'none'], Upgrade::latest(['format' => 'rilta-material/1', 'parameters' => 'none']), 'so are mistakes');
    }

    public function testTheSchemaTellsTheKinds(): void
    {
        $schema = json_encode(Schema::of(Steps::all()), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES);
        foreach (['number', 'colour', 'switch', 'map', 'set'] as $kind) {
            self::assertStringContainsString('"kind":{"const":"' . $kind . '"}', $schema);
        }
        self::assertStringContainsString('"set":{"anyOf":[{"const":""},', $schema);
        self::assertStringContainsString('{"$ref":"#/$defs/follow"}', $schema);
    }
}
