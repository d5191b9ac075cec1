<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Material;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\VariantTable;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Writer;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Named sets of parameter overrides. */
final class VariantTest extends TestCase
{
    private const SETS = [
        ['id' => 'wet', 'name' => 'Wet', 'values' => ['size' => 4]],
        ['id' => 'flooded', 'name' => 'Flooded', 'base' => 'wet', 'values' => ['turn' => 90]],
        ['id' => 'drained', 'name' => 'Drained', 'base' => 'flooded', 'values' => ['size' => 0.5]],
    ];

    public function testAVariantHasItsOwnNumbersThenThoseOfItsBaseThenTheMaterials(): void
    {
        $variants = self::material()->variants;
        self::assertEquals(['size' => 2.0, 'turn' => 0.0], $variants->values(''));
        self::assertEquals(['size' => 4.0, 'turn' => 0.0], $variants->values('wet'));
        self::assertEquals(['size' => 4.0, 'turn' => 90.0], $variants->values('flooded'));
        self::assertEquals(['size' => 0.5, 'turn' => 90.0], $variants->values('drained'));
        self::assertSame(['/parameters/0/value' => 0.5, '/parameters/1/value' => 90.0], $variants->numbers('drained'));
    }

    public function testWearingAVariantChangesNumbersAndNoCode(): void
    {
        $material = self::material();
        $lowered = Lowering::lower($material, TestMaps::noise());
        $worn = $lowered->withNumbers($material->variants->numbers('flooded'));
        self::assertSame($lowered->graph, $worn->graph);
        $tap = $lowered->taps()[0];
        $at = FloorLane::at(0.7, 0.2)->inputs;
        foreach (['' => [2.0, 0.0], 'wet' => [4.0, 0.0], 'flooded' => [4.0, 90.0], 'drained' => [0.5, 90.0]] as $id => [$size, $turn]) {
            $found = Kernels::values($lowered->graph, ['metres' => $tap->at->metres, 't' => $tap->at->t], $at, $lowered->withNumbers($material->variants->numbers($id))->uniforms());
            self::assertEqualsWithDelta([$size, $size], $found['metres'], 1e-9, $id);
            self::assertEqualsWithDelta([cos(deg2rad($turn)), 0.0, -sin(deg2rad($turn))], $found['t'], 1e-9, $id);
            // A document with the numbers of the variant is the same material by another way.
            $dressed = Documents::reader()->read($material->variants->applied(self::document(), $id));
            self::assertSame(Shader::of($lowered)->material, Shader::of(Lowering::lower($dressed, TestMaps::noise()))->material);
            self::assertEquals($lowered->withNumbers($material->variants->numbers($id))->uniforms(), Lowering::lower($dressed, TestMaps::noise())->uniforms(), $id);
        }
    }

    public function testReadingWhatWasWrittenChangesNothing(): void
    {
        $json = Writer::json(self::material());
        self::assertStringContainsString('{"id":"flooded","name":"Flooded","base":"wet","values":{"turn":90}}', $json);
        self::assertSame($json, Writer::json(Documents::reader()->readJson($json)));
        $said = Writer::json(Documents::reader()->read(self::document(['group' => 'Tide', 'help' => 'How far it has come.', 'live' => false])));
        self::assertStringContainsString('"value":2,"group":"Tide","help":"How far it has come.","live":false}', $said);
        self::assertStringNotContainsString('live', $json, 'what is usual is not said');
    }

    /** @return iterable<string, array{array<mixed>, string}> a second variant, and what is said */
    public static function mistakes(): iterable
    {
        $like = static fn (array $more): array => $more + ['id' => 'dry', 'name' => 'Dry'];
        yield 'nobody of that name' => [$like(['base' => 'damp']), '/variants/1/base: there is no variant "damp"; the variants are wet, dry'];
        yield 'on itself' => [$like(['base' => 'dry']), '/variants/1/base: "dry" would build on itself: dry on dry'];
        yield 'no such parameter' => [$like(['values' => ['width' => 1]]), '/variants/1/values/width: is not known here; expected size, turn'];
        yield 'a number in words' => [$like(['values' => ['size' => 'wide']]), '/variants/1/values/size: expected a number from -1000000 to 1000000, found "wide"'];
        yield 'an id that is taken' => [$like(['id' => 'wet']), '/variants/1/id: the id "wet" is taken by /variants/0'];
        yield 'no name' => [$like(['name' => '']), '/variants/1/name: expected a name'];
    }

    /** @param array<mixed> $second */
    #[DataProvider('mistakes')]
    public function testMistakesAreNamedWithTheirPlaces(array $second, string $message): void
    {
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage($message);
        Documents::reader()->read(['variants' => [self::SETS[0], $second]] + self::document());
    }

    public function testVariantsThatGoRoundInACircleStandOnTheMaterial(): void
    {
        $salvage = Documents::reader()->salvage(['variants' => [
            ['id' => 'a', 'name' => 'A', 'base' => 'b', 'values' => ['size' => 1]],
            ['id' => 'b', 'name' => 'B', 'base' => 'a', 'values' => ['turn' => 5]],
        ]] + self::document());
        self::assertSame(['/variants/0/base'], array_column($salvage->problems, 'path'));
        self::assertEquals(['size' => 1.0, 'turn' => 5.0], $salvage->material->variants->values('b'), 'the rest of the chain holds');
        self::assertEquals(['size' => 1.0, 'turn' => 0.0], $salvage->material->variants->values('a'));
    }

    public function testAnUnknownVariantIsNamedWithThoseThatExist(): void
    {
        $this->expectExceptionMessage('there is no variant "frozen"; the variants are wet, flooded, drained');
        self::material()->variants->values('frozen');
    }

    public function testATableGoesOutAndComesBack(): void
    {
        $material = self::material();
        $csv = VariantTable::csv($material);
        self::assertSame("variant,name,base,size,turn\r\n,Test,,2,0\r\nwet,Wet,,4,\r\nflooded,Flooded,wet,,90\r\ndrained,Drained,flooded,0.5,\r\n", $csv);
        $back = Documents::reader()->read(['variants' => VariantTable::read($material, $csv)] + self::document());
        self::assertSame(Writer::json($material), Writer::json($back));
        // From a spreadsheet: tabs, a mark at the beginning, other order, one new and one changed row.
        $sheet = "\u{FEFF}name\tturn\tvariant\nSoaked\t12.5\twet\n\t7\tstormy\n\n";
        $read = VariantTable::read($material, $sheet);
        self::assertEquals([
            ['id' => 'wet', 'name' => 'Soaked', 'base' => '', 'values' => ['turn' => 12.5]],
            ['id' => 'flooded', 'name' => 'Flooded', 'base' => 'wet', 'values' => ['turn' => 90.0]],
            ['id' => 'drained', 'name' => 'Drained', 'base' => 'flooded', 'values' => ['size' => 0.5]],
            ['id' => 'stormy', 'name' => 'stormy', 'base' => '', 'values' => ['turn' => 7.0]],
        ], $read);
    }

    public function testNoCellIsComputedByASpreadsheetAndColoursHaveOneForm(): void
    {
        $document = ['parameters' => [
            ['id' => 'glaze', 'name' => 'Glaze', 'kind' => 'colour', 'value' => [1.0, 0.5, 0.123456]],
            ['id' => 'depth', 'name' => 'Depth', 'kind' => 'number', 'min' => -9.0, 'max' => 9.0, 'value' => 0.0],
        ], 'variants' => [
            ['id' => 'a', 'name' => '=HYPERLINK("x")', 'values' => ['glaze' => [1.0, 0.0, 0.0], 'depth' => -2.5]],
            ['id' => 'b', 'name' => '+1 @home', 'values' => []],
        ]] + Documents::of([Documents::step('origin')]);
        $material = Documents::reader()->read($document);
        $csv = VariantTable::csv($material);
        self::assertSame("variant,name,base,glaze,depth\r\n,Test,,\"1 0.5 0.123456\",0\r\na,\"'=HYPERLINK(\"\"x\"\")\",,\"1 0 0\",-2.5\r\nb,\"'+1 @home\",,,\r\n", $csv);
        $back = VariantTable::read($material, $csv);
        self::assertSame(['=HYPERLINK("x")', '+1 @home'], array_column($back, 'name'));
        self::assertSame([[1.0, 0.0, 0.0], -2.5], array_values($back[0]['values']));
    }

    /** @return iterable<string, array{string, string}> a table, and what is said */
    public static function tables(): iterable
    {
        yield 'nothing' => ['', '/1: expected a column headed "variant" in the first row'];
        yield 'a stranger among the columns' => ["variant,width\nwet,1", '/1/width: column 2 is no parameter of Test; those are size, turn'];
        yield 'a column twice' => ["variant,size,size\nwet,1,2", '/1/size: column 3 repeats "size"'];
        yield 'a word for a number' => ["variant,size\nwet,wide", '/2/size: expected a number, or nothing for what is inherited, found "wide"'];
        yield 'a number out of range' => ["variant,size\nwet,1e9", '/2/size: expected -1000000 to 1000000, found 1000000000'];
        yield 'an id that is none' => ["variant,size\nVery wet,1", '/2/variant: expected lower-case letters'];
        yield 'a base that is missing' => ["variant,base\n\nice,snow", '/3/base: there is no variant "snow"'];
        yield 'no text' => ["variant\n\xFF", 'the table is not UTF-8 text'];
    }

    #[DataProvider('tables')]
    public function testAMistakeInATableIsNamedByRowAndColumn(string $csv, string $message): void
    {
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage($message);
        VariantTable::read(self::material(), $csv);
    }

    private static function material(): Material
    {
        return Documents::reader()->read(self::document());
    }

    /**
     * @param array<string, mixed> $parameter
     *
     * @return array<string, mixed>
     */
    private static function document(array $parameter = []): array
    {
        return Documents::whole(
            [Documents::lane('main', Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => ['parameter' => 'size']]), Documents::step('turn', ['angle' => ['parameter' => 'turn']]))],
            [Documents::layer('ground', 'main')],
            [$parameter + ['id' => 'size', 'name' => 'Size', 'kind' => 'number', 'value' => 2], ['id' => 'turn', 'name' => 'Turn', 'kind' => 'number', 'value' => 0]],
        ) + ['variants' => self::SETS];
    }
}
