<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Validator;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Stage\Stage;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Bundle\FrameworkBundle\Test\KernelTestCase;
use Symfony\Component\Console\Tester\CommandTester;

final class CommandTest extends KernelTestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir() . '/rilta-command-' . bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        parent::tearDown();
        exec('rm -rf ' . escapeshellarg($this->folder));
    }

    public function testBakeWritesFilesAndNeverOverwritesUnasked(): void
    {
        $arguments = ['file' => self::demo('lab-wall'), '--size' => '64', '--out' => $this->folder];
        [$code, $text] = $this->run_('bake', $arguments);
        self::assertSame(0, $code, $text);
        self::assertStringContainsString('A seamless tile.', $text);
        $file = "$this->folder/laboratory-wall-base-colour.png";
        self::assertSame(64, ImageFile::open($file)->width);
        file_put_contents($file, 'mine');
        [$code, $text] = $this->run_('bake', $arguments);
        self::assertSame(1, $code);
        self::assertStringContainsString('add --force to overwrite', $text);
        self::assertSame('mine', file_get_contents($file));
        [$code] = $this->run_('bake', $arguments + ['--force' => true]);
        self::assertSame(0, $code);
        self::assertNotSame('mine', file_get_contents($file));
    }

    public function testEveryMaterialWithVariantsIsBakedAndProbedInThem(): void
    {
        [$code, $text] = $this->run_('bake', ['file' => self::demo('dome'), '--variant' => 'weathered', '--size' => '16', '--out' => $this->folder]);
        self::assertSame(0, $code, $text);
        self::assertFileExists("$this->folder/observatory-dome-weathered-base-colour.png");
        [$code, $text] = $this->run_('probe', ['file' => self::demo('silt-bank'), '--variant' => 'ebbing', '--at' => '0.3,0,0.2']);
        self::assertSame(0, $code, $text);
        [$code, $text] = $this->run_('probe', ['file' => self::demo('dome'), '--variant' => 'rusty']);
        self::assertSame([1, true], [$code, str_contains($text, 'there is no variant "rusty"; the variants are new, weathered, a-century')], $text);
    }

    public function testWhatCannotTileIsToldOrCut(): void
    {
        [$code, $text] = $this->run_('bake', ['file' => self::demo('salt-flat'), '--size' => '64', '--out' => $this->folder]);
        self::assertSame([0, true], [$code, str_contains($text, 'It cannot tile, because Choose (/lanes/0/steps/2) does not repeat')], $text);
        [$code, $text] = $this->run_('bake', ['file' => self::demo('salt-flat'), '--size' => '64', '--out' => $this->folder, '--force' => true, '--edges' => 'cut']);
        self::assertSame([0, true], [$code, str_contains($text, 'Made seamless by a cut')], $text);
        foreach ([['--edges' => 'glue'], ['--most' => '-2'], ['--most' => 'far']] as $wrong) {
            [$code, $text] = $this->run_('bake', ['file' => self::demo('salt-flat'), '--size' => '64', '--out' => $this->folder, '--force' => true] + $wrong);
            self::assertSame([1, true], [$code, str_contains($text, 'expected')], $text);
        }
    }

    public function testBakeWritesOtherFormats(): void
    {
        foreach (['tga' => "\0\0\x0a", 'ktx2' => "\xABKTX 20\xBB\r\n\x1A\n"] as $format => $begins) {
            [$code, $text] = $this->run_('bake', ['file' => self::demo('lab-wall'), '--size' => '32', '--out' => $this->folder, '--format' => $format]);
            self::assertSame(0, $code, $text);
            $files = glob("$this->folder/*-base-colour.$format") ?: [];
            self::assertCount(1, $files);
            self::assertStringStartsWith($begins, (string) file_get_contents($files[0]));
        }
        [$code, $text] = $this->run_('bake', ['file' => self::demo('lab-wall'), '--size' => '32', '--out' => $this->folder, '--format' => 'bmp']);
        self::assertSame(1, $code);
        self::assertStringContainsString('--format: expected one of png, tga, ktx2, ktx2-blocks, found "bmp".', $text);
    }

    public function testMaterialsOfGltfBecomeDocuments(): void
    {
        $file = \dirname(__DIR__, 2) . '/demo/deliveries/lamp-glass-example/lamp-glass.glb';
        [$code, $text] = $this->run_('bring', ['file' => $file, '--out' => $this->folder]);
        self::assertSame([0, true], [$code, str_contains($text, 'lamp-glass.json: layers 1, map sets 1')], $text);
        [$code, $text] = $this->run_('bake', ['file' => "$this->folder/lamp-glass.json", '--maps' => "$this->folder/maps", '--size' => '64', '--out' => $this->folder]);
        self::assertSame(0, $code, $text);
        [$code, $text] = $this->run_('bring', ['file' => $file, '--out' => $this->folder]);
        self::assertSame([1, true], [$code, str_contains($text, '--force overwrites it')], $text);
    }

    public function testArraysOfAFamilyComeWithTheirList(): void
    {
        $said = ['family' => 'shell-aggregate', '--format' => 'tga', '--out' => $this->folder];
        [$code, $text] = $this->run_('arrays', $said);
        self::assertSame([0, 16], [$code, substr_count($text, 'MiB')], $text);
        $list = json_decode((string) file_get_contents("$this->folder/shell-aggregate.json"), true);
        self::assertIsArray($list);
        self::assertIsArray($list['arrays']);
        foreach ($list['arrays'] as $array) {
            self::assertIsArray($array);
            self::assertIsArray($array['files']);
            self::assertCount(3, array_filter($array['files'], fn (mixed $file): bool => \is_string($file) && is_file("$this->folder/$file")));
        }
        // Nothing is written where one of them is there.
        unlink("$this->folder/shell-aggregate-base-colour-0.tga");
        [$code, $text] = $this->run_('arrays', $said);
        self::assertSame([1, false], [$code, is_file("$this->folder/shell-aggregate-base-colour-0.tga")]);
        self::assertStringContainsString('is there already; --force overwrites it.', $text);
        self::assertStringContainsString('There is no family "shell"', $this->run_('arrays', ['family' => 'shell'] + $said)[1]);
        self::assertStringContainsString('--format: expected one of png, tga', $this->run_('arrays', ['--format' => 'gif'] + $said)[1]);
    }

    public function testProbePrintsTheTrail(): void
    {
        [$code, $text] = $this->run_('probe', ['file' => self::demo('lab-wall'), '--at' => '0.8,-0.4,0', '--normal' => '0,0,1']);
        self::assertSame(0, $code, $text);
        self::assertStringContainsString('Coordinate on z              0.5000  0.2500 repeats', $text);
    }

    public function testLowerPrintsAShader(): void
    {
        [$code, $text] = $this->run_('lower', ['file' => self::demo('dome')]);
        self::assertSame(0, $code);
        self::assertStringContainsString('RiltaMaterial riltaMaterial(RiltaSurface s, RiltaReady ready)', $text);
        [$code, $text] = $this->run_('lower', ['file' => self::demo('dome'), '--target' => 'glsl450', '--prefix' => 'dome', '--textures' => 'single', '--harness' => true]);
        self::assertSame([0, "#version 450\n// "], [$code, substr($text, 0, 16)]);
        self::assertStringContainsString('DomeMaterial m = domeMaterial(s, domePrepare());', $text);
        self::assertStringContainsString('uniform sampler2D dome_map_', $text);
    }

    public function testLowerTellsWhatAHostHasToKnow(): void
    {
        [$code, $text] = $this->run_('lower', ['file' => self::demo('sea-wall'), '--target' => 'hlsl', '--sidecar' => true]);
        self::assertSame(0, $code, $text);
        $said = json_decode($text, true, 512, \JSON_THROW_ON_ERROR);
        self::assertIsArray($said);
        self::assertSame(['rilta-shader/1', 'hlsl', 'sea-wall.hlsl'], [$said['format'], $said['language'], $said['file']]);
    }

    public function testLowerSaysWhatItExpects(): void
    {
        foreach ([['--target', 'glsl100', 'one of glsl, glsl450, hlsl, wgsl, c'], ['--textures', 'both', 'one of arrays, single'], ['--prefix', 'gl_', 'expected a lower-case letter']] as [$option, $wrong, $expected]) {
            [$code, $text] = $this->run_('lower', ['file' => self::demo('dome'), $option => $wrong]);
            self::assertSame(1, $code);
            self::assertStringContainsString($expected, $text);
            self::assertStringContainsString("found \"$wrong\"", $text);
        }
    }

    public function testCheckEndsWithAnErrorWhereSomethingIsWrong(): void
    {
        [$code, $text] = $this->run_('check', ['file' => [self::demo('long-wall')]]);
        self::assertSame([0, self::demo('long-wall') . ": nothing\n"], [$code, $text]);
        [$code, $text] = $this->run_('check', ['file' => [self::demo('long-wall'), self::demo('damp-plaster')], '--budget' => 'middle']);
        self::assertSame(1, $code);
        self::assertMatchesRegularExpression('~wrong +/lanes/0/steps/2  36 map reads, and “Middle” allows 32~', $text);
        $stage = "$this->folder/stage.json";
        file_put_contents($stage, json_encode(Stage::first(), \JSON_THROW_ON_ERROR));
        [$code, $text] = $this->run_('check', ['file' => [self::demo('sea-wall')], '--stage' => $stage]);
        self::assertSame([0, true], [$code, str_contains($text, '213 texels a metre')], $text);
        self::assertSame(1, $this->run_('check', ['file' => [self::demo('sea-wall')], '--stage' => $stage, '--strict' => true])[0]);
        foreach ([['--budget' => 'huge'], ['--format' => 'xml'], ['--stage' => 'none.json'], ['--variant' => 'none']] as $wrong) {
            self::assertSame(2, $this->run_('check', ['file' => [self::demo('long-wall')]] + $wrong)[0]);
        }
        self::assertSame(2, $this->run_('check', ['file' => ["$this->folder/none.json"]])[0]);
    }

    public function testWhatIsFoundIsWrittenForPipelines(): void
    {
        [$code, $sarif] = $this->run_('check', ['file' => [self::demo('damp-plaster'), self::demo('long-wall')], '--format' => 'sarif']);
        self::assertSame(0, $code);
        $data = json_decode($sarif, false, 512, \JSON_THROW_ON_ERROR);
        $result = (new Validator())->validate($data, (string) file_get_contents(__DIR__ . '/sarif-2.1.0.json'));
        $error = $result->error();
        self::assertTrue($result->isValid(), $error === null ? '' : json_encode((new ErrorFormatter())->format($error), \JSON_THROW_ON_ERROR));
        /** @var array{runs: array{array{results: list<array{ruleId: string, level: string, locations: array{array{logicalLocations: array{array{fullyQualifiedName: string}}}}}>}}} $whole */
        $whole = json_decode($sarif, true, 512, \JSON_THROW_ON_ERROR);
        self::assertSame([['cannot-tile', 'note', '/lanes/0/steps/2']], array_map(static fn (array $one): array => [$one['ruleId'], $one['level'], $one['locations'][0]['logicalLocations'][0]['fullyQualifiedName']], $whole['runs'][0]['results']));
        [, $junit] = $this->run_('check', ['file' => [self::demo('damp-plaster'), self::demo('long-wall')], '--budget' => 'small', '--format' => 'junit']);
        $xml = simplexml_load_string($junit);
        self::assertNotFalse($xml);
        self::assertSame(['1', '0'], array_map(static fn (\SimpleXMLElement $suite): string => (string) $suite['failures'], iterator_to_array($xml->testsuite, false)));
        self::assertSame('Over its budget', (string) ($xml->xpath('//testcase[failure]')[0]['name'] ?? ''));
    }

    public function testMistakesAreToldWithFileAndPlace(): void
    {
        $file = "$this->folder/bad.json";
        file_put_contents($file, '{"format":"rilta-material/1","name":"Bad","lanes":[{"id":"a","name":"A","steps":[{"step":"origin","values":{"seam":400}}]}],"layers":[{"id":"g","name":"G","lane":"b","set":"rock"}]}');
        [$code, $text] = $this->run_('probe', ['file' => $file, '--maps' => self::demoFolder() . '/maps']);
        self::assertSame(1, $code);
        self::assertStringContainsString('bad.json /lanes/0/steps/0/values/seam: expected 0 to 90 °, found 400', $text);
        self::assertStringContainsString('/layers/0/lane: there is no lane "b"', $text);
        foreach ([['--at' => '1,2'], ['--at' => 'a,b,c'], ['--normal' => '0,0,0'], ['--pixel' => 'tiny']] as $wrong) {
            [$code, $text] = $this->run_('probe', ['file' => self::demo('dome')] + $wrong);
            self::assertSame(1, $code, $text);
        }
        [$code, $text] = $this->run_('bake', ['file' => "$this->folder/none.json"]);
        self::assertSame([1, true], [$code, str_contains($text, 'There is no file')]);
        [$code, $text] = $this->run_('bake', ['file' => self::demo('dome'), '--size' => '9999']);
        self::assertSame([1, true], [$code, str_contains($text, '--size: expected 1 to 8192 pixels')]);
    }

    /**
     * @param array<string, mixed> $arguments
     *
     * @return array{int, string}
     */
    private function run_(string $command, array $arguments): array
    {
        $tester = new CommandTester((new Application(self::bootKernel()))->find($command));
        $tester->execute($arguments);

        return [$tester->getStatusCode(), $tester->getDisplay()];
    }

    private static function demo(string $name): string
    {
        return self::demoFolder() . "/materials/$name.json";
    }

    private static function demoFolder(): string
    {
        return \dirname(__DIR__, 2) . '/demo';
    }
}
