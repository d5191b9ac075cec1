<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Material;

use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Problem;
use Rilta\Core\Material\Schema;
use Rilta\Core\Material\Writer;
use Rilta\Core\Step\Steps;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;

final class ReaderTest extends TestCase
{
    /** @return iterable<string, array{\Closure(array<string, mixed>): mixed, string, string}> a change of a good document, where the mistake is, what the message says */
    public static function mistakes(): iterable
    {
        $lane = static fn (array $d, array $change): array => array_replace_recursive($d, ['lanes' => [$change]]);
        yield 'another format' => [static fn (array $d): array => ['format' => 'something/2'] + $d, '/format', 'expected "rilta-material/2", found "something/2"'];
        yield 'no name' => [static fn (array $d): array => ['name' => ' '] + $d, '/name', '1 to 120 characters'];
        yield 'a name too long' => [static fn (array $d): array => ['name' => str_repeat('a', 121)] + $d, '/name', '1 to 120 characters'];
        yield 'a stranger' => [static fn (array $d): array => $d + ['colour' => 'red'], '/colour', 'is not known here'];
        yield 'an odd member name' => [static fn (array $d): array => $d + ['a/b~c' => 1], '/a~1b~0c', 'is not known here'];
        yield 'no lanes' => [static fn (array $d): array => ['lanes' => []] + $d, '/lanes', 'at least one entry'];
        yield 'lanes as an object' => [static fn (array $d): array => ['lanes' => ['a' => 1]] + $d, '/lanes', 'expected a list'];
        yield 'an unknown step' => [static fn (array $d): array => $lane($d, ['steps' => [1 => ['step' => 'fold']]]), '/lanes/0/steps/1/step', 'found "fold"'];
        yield 'an origin in the middle' => [static fn (array $d): array => $lane($d, ['steps' => [1 => ['step' => 'origin', 'values' => []]]]), '/lanes/0/steps/1/step', 'only be the first step'];
        yield 'no origin' => [static fn (array $d): array => $lane($d, ['steps' => [['step' => 'size']]]), '/lanes/0/steps/0/step', 'begins with an origin'];
        yield 'an origin that is off' => [static fn (array $d): array => $lane($d, ['steps' => [['on' => false]]]), '/lanes/0/steps/0/on', 'cannot be switched off'];
        yield 'text for a number' => [static fn (array $d): array => $lane($d, ['steps' => [1 => ['values' => ['u' => 'big']]]]), '/lanes/0/steps/1/values/u', 'found "big"'];
        yield 'a number out of range' => [static fn (array $d): array => $lane($d, ['steps' => [1 => ['values' => ['u' => 0]]]]), '/lanes/0/steps/1/values/u', 'expected 0.001 to 10000 m, found 0'];
        yield 'an unknown choice' => [static fn (array $d): array => $lane($d, ['steps' => [['values' => ['space' => 'local']]]]), '/lanes/0/steps/0/values/space', 'expected one of mesh, world, object'];
        yield 'a value of another step' => [static fn (array $d): array => $lane($d, ['steps' => [['values' => ['u' => 1]]]]), '/lanes/0/steps/0/values/u', 'is not known here'];
        yield 'a layer on no lane' => [static fn (array $d): array => array_replace_recursive($d, ['layers' => [['lane' => 'other']]]), '/layers/0/lane', 'the lanes are main'];
        yield 'an id with spaces' => [static fn (array $d): array => $lane($d, ['id' => 'Main lane']), '/lanes/0/id', 'lower-case letters'];
    }

    /** @param \Closure(array<string, mixed>): mixed $change */
    #[DataProvider('mistakes')]
    public function testEveryMistakeIsNamedWithItsPlace(\Closure $change, string $path, string $message): void
    {
        $good = Documents::of([Documents::step('origin', ['seam' => 10]), Documents::step('size', ['u' => 2])]);
        Documents::reader()->read($good);
        try {
            Documents::reader()->read($change($good));
            self::fail('The document was accepted.');
        } catch (InvalidDocument $e) {
            self::assertContains($path, array_map(static fn (Problem $p): string => $p->path, $e->problems));
            self::assertStringContainsString($message, $e->getMessage());
        }
    }

    public function testAllMistakesAreReportedAtOnce(): void
    {
        try {
            Documents::reader()->read(['name' => ''] + Documents::of([Documents::step('origin', ['seam' => 1000]), Documents::step('size', ['u' => -1, 'v' => true])]));
            self::fail('The document was accepted.');
        } catch (InvalidDocument $e) {
            self::assertCount(4, $e->problems);
        }
    }

    public function testTwoLanesOfOneIdAreRefused(): void
    {
        $lane = ['id' => 'main', 'name' => 'Main', 'steps' => [Documents::step('origin')]];
        $document = ['lanes' => [$lane, $lane]] + Documents::of([]);
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage('/lanes/1/id: the id "main" is taken by /lanes/0');
        Documents::reader()->read($document);
    }

    /** @return iterable<string, array{string}> */
    public static function notDocuments(): iterable
    {
        yield 'nothing' => [''];
        yield 'a number' => ['12'];
        yield 'half a document' => ['{"format": "rilta-material/1", "name"'];
        yield 'a list' => ['[1, 2]'];
        yield 'too deep' => [str_repeat('[', 200) . str_repeat(']', 200)];
        yield 'not UTF-8' => ["{\"format\": \"\xFF\"}"];
    }

    #[DataProvider('notDocuments')]
    public function testWhatIsNoDocumentIsRefused(string $text): void
    {
        $this->expectException(InvalidDocument::class);
        Documents::reader()->readJson($text);
    }

    public function testReadingWhatWasWrittenChangesNothing(): void
    {
        $random = new RandomDocuments(3);
        for ($i = 0; $i < 50; ++$i) {
            $json = Writer::json(Documents::reader()->read($random->document()));
            self::assertSame($json, Writer::json(Documents::reader()->readJson($json)));
        }
    }

    public function testTheSchemaAndTheReaderAgree(): void
    {
        $schema = json_encode(Schema::of(Steps::all()), \JSON_THROW_ON_ERROR);
        $valid = static fn (mixed $data): bool => (new Validator())->validate(json_decode(json_encode($data, \JSON_THROW_ON_ERROR)), $schema)->isValid();
        $random = new RandomDocuments(5);
        for ($i = 0; $i < 20; ++$i) {
            self::assertTrue($valid(Writer::document(Documents::reader()->read($random->document()))));
        }
        $good = Writer::document(Documents::reader()->read(Documents::of([Documents::step('origin'), Documents::step('size')])));
        self::assertFalse($valid(['format' => 'x'] + $good));
        self::assertFalse($valid(['layers' => []] + $good));
        self::assertFalse($valid($good + ['more' => 1]));
    }

    public function testAMissingMapSetIsNamedWithThoseThatExist(): void
    {
        $material = Documents::reader()->read(Documents::of([Documents::step('origin')], 'lost'));
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage('/layers/0/set: there is no map set "lost"; there are set');
        Lowering::lower($material, TestMaps::noise());
    }

    public function testALaneReadsAsASentence(): void
    {
        $lane = Documents::reader()->read(Documents::of([
            Documents::step('origin', ['space' => 'object']),
            Documents::step('size', ['linked' => false, 'u' => 1.8, 'v' => 1.35]),
            ['on' => false] + Documents::step('size', ['u' => 9]),
        ]))->lanes[0];
        self::assertSame('object position, tri-planar → 1.8 x 1.35 m per repeat', $lane->sentence());
    }
}
