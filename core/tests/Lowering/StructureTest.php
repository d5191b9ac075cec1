<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Lowering\Structure;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\PartialRead;
use Rilta\Core\Material\Problem;
use Rilta\Core\Recipe\LoweredRecipe;
use Rilta\Core\Recipe\RecipeLowering;
use Rilta\Core\Recipe\RecipeReader;
use Rilta\Core\Recipe\RecipeShader;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;

/**
 * What is told of the structure of a document is what its code is made by: as long as outlines are the same, so is the code, whatever is
 * changed. The browser makes the same outlines: both are held by the file of vectors beside this test.
 */
final class StructureTest extends TestCase
{
    private const VECTORS = __DIR__ . '/structure.json';
    private const DEMO = __DIR__ . '/../../../demo';

    public function testTheVectorsAreWhatIsComputed(): void
    {
        $vectors = [];
        foreach (self::documents() as $name => $document) {
            $vectors[] = ['name' => $name] + self::vector($document, TestMaps::whole(), 60, 7);
        }
        $alike = array_count_values(array_map(static fn (array $change): string => $change['alike'] ? 'alike' : 'other', array_merge(...array_column($vectors, 'changes'))));
        self::assertGreaterThan(100, min($alike['alike'] ?? 0, $alike['other'] ?? 0), 'both kinds of changes');
        $made = json_encode($vectors, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION | \JSON_UNESCAPED_SLASHES) . "\n";
        if (getenv('RILTA_WRITE_VECTORS') !== false) {
            file_put_contents(self::VECTORS, $made);
        }
        self::assertStringEqualsFile(self::VECTORS, $made, 'run the test with RILTA_WRITE_VECTORS=1 after a change that is meant');
    }

    /** @return iterable<string, array{string}> */
    public static function demo(): iterable
    {
        foreach (glob(self::DEMO . '/materials/*.json') ?: [] as $file) {
            yield basename($file, '.json') => [$file];
        }
    }

    #[DataProvider('demo')]
    public function testAMaterialOfTheDemoIsDrawnByItsCodeAsLongAsItsOutlineStays(string $file): void
    {
        $document = json_decode((string) file_get_contents($file), true, 512, \JSON_THROW_ON_ERROR);
        self::assertIsArray($document);
        $changes = self::vector($document, new MapFolder(self::DEMO . '/maps', sys_get_temp_dir() . '/rilta-demo-maps'), 12, crc32($file))['changes'];
        self::assertNotEmpty($changes);
    }

    public function testANumberOutsideItsRangeAsksForOtherCode(): void
    {
        $document = Documents::of([Documents::step('origin'), Documents::step('size', ['u' => 2.0])]);
        $structure = self::structure($document, TestMaps::noise());
        $with = static fn (mixed $u): string => $structure->outline(self::changed($document, '/lanes/0/steps/1/values/u', $u));
        self::assertSame($with(2.0), $with(3.5));
        self::assertSame($with(2.0), $with(10000));
        self::assertNotSame($with(2.0), $with(10000.5));
        self::assertNotSame($with(2.0), $with(0));
        self::assertNotSame($with(2.0), $with('2'));
        self::assertNotSame($with(2.0), $with(true));
        self::assertNotSame($with(2.0), $with(['parameter' => 'p']));
    }

    public function testASwitchThatCodeIsMadeByIsStructureThoughItFollowsAParameter(): void
    {
        $structure = self::structure(self::driven(), TestMaps::whole());
        // There is code for both states of "either". Nobody follows "free"; "stiff" fills a uniform, and code was made by it besides.
        self::assertArrayHasKey('/parameters/2/value', $structure->numbers);
        self::assertArrayNotHasKey('/parameters/3/value', $structure->numbers);
        self::assertArrayNotHasKey('/parameters/5/value', $structure->numbers);
        $changed = self::changed(self::driven(), '/parameters/5/value', false);
        self::assertNotSame($structure->outline(self::driven()), $structure->outline($changed));
        self::assertNotSame(self::code(self::driven(), TestMaps::whole()), self::code($changed, TestMaps::whole()), 'it is other code indeed');
    }

    /** @return iterable<string, array{string}> */
    public static function recipes(): iterable
    {
        foreach (glob(self::DEMO . '/recipes/*.json') ?: [] as $file) {
            yield basename($file, '.json') => [$file];
        }
    }

    #[DataProvider('recipes')]
    public function testARecipeIsDrawnByItsCodeAsLongAsItsOutlineStays(string $file): void
    {
        /** @var array<mixed> $document */
        $document = json_decode((string) file_get_contents($file), true, 512, \JSON_THROW_ON_ERROR);
        $lowered = RecipeLowering::lower(RecipeReader::read($document));
        $structure = $lowered->structure();
        $code = static fn (LoweredRecipe $one): array => array_column(RecipeShader::views($one), 'code', 'key');
        $same = 0;
        foreach ($structure->numbers as $path => [$least, $most, $whole]) {
            $middle = $whole ? floor(($least + min($most, $least + 9)) / 2) : ($least + min($most, $least + 9)) / 2;
            $changed = self::changed($document, $path, $middle);
            if ($structure->outline($changed) === $structure->outline($document)) {
                ++$same;
                self::assertSame($code($lowered), $code(RecipeLowering::lower(RecipeReader::read($changed))), $path);
            }
        }
        self::assertGreaterThan(3, $same);
    }

    /**
     * A document, its structure, and changes of it, each with whether its code stays.
     *
     * @param array<mixed> $document
     *
     * @return array{document: array<mixed>, numbers: array<string, array{float, float, bool, ?float}>, words: list<string>, rising: object, changes: list<array{path: string, value?: mixed, alike: bool}>}
     */
    private static function vector(array $document, MapSets $maps, int $count, int $seed): array
    {
        $dice = new Randomizer(new Mt19937($seed));
        $structure = self::structure($document, $maps);
        $outline = $structure->outline($document);
        $code = self::code($document, $maps);
        $leaves = self::leaves($document, '');
        $changes = [];
        for ($n = 0; $n < $count; ++$n) {
            $path = (string) array_keys($leaves)[$dice->getInt(0, \count($leaves) - 1)];
            $range = $structure->numbers[$path] ?? null;
            $remove = $dice->getInt(0, 9) === 0;
            $value = self::other($leaves[$path], $range, $dice);
            $changed = $remove ? self::without($document, $path) : self::changed($document, $path, $value);
            $alike = $structure->outline($changed) === $outline;
            $what = $remove ? "without $path" : "$path is " . json_encode($value, \JSON_THROW_ON_ERROR);
            if ($alike) {
                self::assertSame($code, self::code($changed, $maps), $what);
                foreach (Lowering::salvage(self::read($changed)->material, $maps)->slots as $slot) {
                    self::assertTrue(!$remove || $slot->path !== $path || (float) $slot->value === ($range[3] ?? null), "$what, and another number stands in for it");
                }
            }
            $rises = isset($structure->rising[\dirname($path, 2)]) && basename($path) === $structure->rising[\dirname($path, 2)];
            if (!$remove && !$rises && $range !== null && is_numeric($value) && is_numeric($leaves[$path]) && $value >= $range[0] && $value <= $range[1] && (!$range[2] || floor((float) $value) === (float) $value)) {
                self::assertTrue($alike, $what);
            }
            $changes[] = ['path' => $path] + ($remove ? [] : ['value' => $value]) + ['alike' => $alike];
        }

        return ['document' => $document, 'numbers' => $structure->numbers, 'words' => $structure->words, 'rising' => (object) $structure->rising, 'changes' => $changes];
    }

    /** @return array<string, array<mixed>> */
    private static function documents(): array
    {
        $documents = ['driven' => self::driven()];
        $random = new RandomDocuments(163);
        for ($n = 0; $n < 6; ++$n) {
            $documents["random $n"] = $random->layered();
        }

        return $documents;
    }

    /**
     * Values that follow parameters of all kinds, a step that is off, a layer that is hidden, a group, variants.
     *
     * @return array<mixed>
     */
    private static function driven(): array
    {
        $document = Documents::whole(
            [
                Documents::lane('main', Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => ['parameter' => 'wide', 'factor' => 2.0, 'offset' => 0.5]]), Documents::step('mirror'), ['on' => false] + Documents::step('turn', ['angle' => 30.0]), Documents::step('breakup', ['seed' => ['parameter' => 'wide'], 'contrast' => ['parameter' => 'stiff']])),
                Documents::lane('spare', Documents::step('origin')),
            ],
            [
                Documents::layer('ground', 'main', 'set', ['set' => ['parameter' => 'stuff'], 'finish' => ['values' => ['tint' => ['parameter' => 'paint'], 'roughnessInvert' => ['parameter' => 'either'], 'roughnessFrom' => 0.1, 'metallicInvert' => ['parameter' => 'stiff']]]]),
                Documents::layer('over', 'spare', 'other', ['group' => 'pair', 'opacity' => 40.0, 'mask' => [['kind' => 'slope', 'values' => ['angle' => 30.0, 'softness' => 20.0, 'detailed' => false]]]]),
                Documents::layer('gone', 'spare', 'other', ['group' => 'pair', 'on' => false, 'opacity' => 70.0]),
            ],
            [
                ['id' => 'wide', 'name' => 'Wide', 'kind' => 'number', 'unit' => 'm', 'min' => 0.0, 'max' => 5.0, 'step' => 0.5, 'value' => 2.0],
                ['id' => 'paint', 'name' => 'Paint', 'kind' => 'colour', 'value' => [1.0, 0.5, 0.25]],
                ['id' => 'either', 'name' => 'Either', 'kind' => 'switch', 'value' => true],
                ['id' => 'free', 'name' => 'Free', 'kind' => 'switch', 'value' => false],
                ['id' => 'stuff', 'name' => 'Stuff', 'kind' => 'set', 'value' => 'set'],
                ['id' => 'stiff', 'name' => 'Stiff', 'kind' => 'switch', 'value' => true],
            ],
        );
        $document['groups'] = [['id' => 'pair', 'name' => 'Pair', 'opacity' => 80.0]];
        $document['surface'] = ['values' => ['kind' => 'cut-out', 'threshold' => 40.0]];
        $document['variants'] = [['id' => 'wet', 'name' => 'Wet', 'base' => '', 'values' => ['wide' => 3.0]]];

        return $document;
    }

    /** @param array<mixed> $document */
    private static function structure(array $document, MapSets $maps): Structure
    {
        $read = self::read($document);

        return Structure::of($read, Lowering::salvage($read->material, $maps));
    }

    /** @param array<mixed> $document */
    private static function read(array $document): PartialRead
    {
        return Documents::reader()->salvage($document);
    }

    /**
     * Code, what fills its uniforms, and what is wrong with it.
     *
     * @param array<mixed> $document
     *
     * @return list<mixed>
     */
    private static function code(array $document, MapSets $maps): array
    {
        $read = self::read($document);
        $lowered = Lowering::salvage($read->material, $maps);
        $slots = array_column($lowered->slots, 'path', 'uniform');

        // What is wrong with words is of no matter to code, nor is what comments call things.
        $problems = array_values(array_filter([...$read->problems, ...$lowered->problems], static fn (Problem $problem): bool => preg_match('~^(/name|/variants.*|/(lanes|layers|groups|parameters)/\d+/(name|unit|min|max|step|group|help|live))$~', $problem->path) !== 1 || str_starts_with($problem->path, '/layers/') && str_ends_with($problem->path, '/group')));

        return [preg_replace('~//.*~', '', Shader::of($lowered)->source()), $slots, [$lowered->cover->kind(), $lowered->cover->isTwoSided()], $problems];
    }

    /** @param ?array{float, float, bool, ?float} $range */
    private static function other(mixed $value, ?array $range, Randomizer $dice): mixed
    {
        if (\is_bool($value)) {
            return !$value;
        }
        if (\is_string($value)) {
            return ['other', 'set', 'y', 'metres'][$dice->getInt(0, 3)];
        }
        if (!\is_int($value) && !\is_float($value)) {
            return 1;
        }
        if ($range === null || $dice->getInt(0, 4) === 0) {
            return $value + [1e9, -1e9, 1, 0.125][$dice->getInt(0, 3)];
        }
        $part = $range[0] + (min($range[1], $range[0] + 20) - $range[0]) * $dice->getInt(0, 64) / 64;

        return $range[2] ? (int) floor($part) : $part;
    }

    /**
     * @param array<mixed> $value
     *
     * @return array<string, mixed> by JSON Pointer
     */
    private static function leaves(array $value, string $path): array
    {
        $leaves = [];
        foreach ($value as $key => $one) {
            if ($path !== '' || $key !== 'format') {
                $leaves += \is_array($one) ? self::leaves($one, "$path/$key") : ["$path/$key" => $one];
            }
        }

        return $leaves;
    }

    /**
     * @param array<mixed> $document
     *
     * @return array<mixed>
     */
    private static function changed(array $document, string $path, mixed $value): array
    {
        $keys = \array_slice(explode('/', $path), 1);
        $key = (string) array_shift($keys);
        $inside = $document[$key] ?? null;
        $document[$key] = $keys === [] || !\is_array($inside) ? $value : self::changed($inside, '/' . implode('/', $keys), $value);

        return $document;
    }

    /**
     * @param array<mixed> $document
     *
     * @return array<mixed>
     */
    private static function without(array $document, string $path): array
    {
        $keys = \array_slice(explode('/', $path), 1);
        $last = array_pop($keys);
        $at = &$document;
        foreach ($keys as $key) {
            \assert(\is_array($at));
            $at = &$at[$key];
        }
        \assert(\is_array($at));
        $list = array_is_list($at);
        unset($at[$last]);
        $at = $list ? array_values($at) : $at;

        return $document;
    }
}
