<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Target;

use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Json\JsonObject;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\PartialRead;
use Rilta\Core\Target\Options;
use Rilta\Core\Target\Sidecar;
use Rilta\Core\Target\Targets;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\TestMaps;

/**
 * What a host has to know of a printed material.
 *
 * @phpstan-import-type ShaderSidecarJson from Sidecar
 */
final class SidecarTest extends TestCase
{
    /** @return iterable<string, array{string}> */
    public static function targets(): iterable
    {
        foreach (array_keys(Targets::all()) as $name) {
            yield $name => [$name];
        }
    }

    #[DataProvider('targets')]
    public function testItFollowsItsSchema(string $target): void
    {
        $described = json_decode(json_encode(self::described($target), \JSON_THROW_ON_ERROR));
        $schema = json_decode(json_encode(Sidecar::schema(), \JSON_THROW_ON_ERROR));
        self::assertIsObject($schema);
        self::assertSame('', (string) (new Validator())->validate($described, $schema)->error()?->message());
        self::assertIsObject($described);
        unset($described->numbers);
        self::assertFalse((new Validator())->validate($described, $schema)->isValid());
    }

    #[DataProvider('targets')]
    public function testItTellsAllThatTheCodeAsksFor(string $target): void
    {
        [$read, $lowered] = self::whole();
        foreach ([new Options(), new Options('quay', false)] as $options) {
            $said = (new Sidecar($read, $lowered))->describe(Targets::all()[$target], $options, 'x');
            $code = Targets::all()[$target]->program($lowered, $options);
            foreach ([...array_column($said['numbers'], 'name'), ...array_column($said['textures'], 'name'), ...array_column($said['inputs'], 'name'), ...array_column($said['outputs'], 'name'), ...array_values($said['functions']), ...array_values($said['structs'])] as $name) {
                self::assertMatchesRegularExpression("/\\b$name\\b/", $code);
            }
            // Where numbers are declared, and how.
            [$part, $one] = match ($target) {
                'glsl' => ['/.*/s', '/^uniform (?:float|uint) (\w+);/m'],
                'glsl450' => ['/uniform \w+Numbers \{[^}]*\}/', '/(?:float|uint) (\w+);/'],
                'hlsl' => ['/cbuffer \w+ : register\(b0\) \{[^}]*\}/', '/(?:float|uint) (\w+);/'],
                'wgsl' => ['/struct \w+Numbers \{[^}]*\}/', '/(\w+): (?:f32|u32),/'],
                default => ['/typedef struct \{[^}]*\} \w+_uniforms;/', '/(?:double|uint32_t) (\w+);(?! \/\* by)/'],
            };
            self::assertSame(1, preg_match($part, $code, $block));
            preg_match_all($one, $block[0] ?? '', $found);
            self::assertSame($found[1], array_column($said['numbers'], 'name'), $target);
        }
    }

    public function testNumbersTellTheirPlacesRangesAndWhatVariantsMakeOfThem(): void
    {
        $said = self::described('hlsl');
        $numbers = [];
        foreach ($said['numbers'] as $number) {
            $numbers[$number['path'] ?? ''] = $number;
        }
        self::assertEquals(
            ['name' => 'parameter_stone', 'type' => 'float', 'path' => '/parameters/0/value', 'label' => 'Stone', 'unit' => 'm', 'least' => 1.0, 'most' => 4.0, 'value' => 2.4, 'changes' => 'at run time', 'variants' => new JsonObject(['wide' => 3.6, 'other' => 3.6])],
            $numbers['/parameters/0/value'],
        );
        self::assertSame(['never', '%', 'Opacity'], [$numbers['/layers/1/opacity']['changes'], $numbers['/layers/1/opacity']['unit'], $numbers['/layers/1/opacity']['label']]);
        self::assertSame('Size, times', $numbers['/lanes/0/steps/1/values/u/factor']['label']);
        self::assertSame('never', $numbers['/parameters/1/value/2']['changes']);
        self::assertSame(['Paint, blue', 0.0, 1.0], [$numbers['/parameters/1/value/2']['label'], $numbers['/parameters/1/value/2']['least'] ?? null, $numbers['/parameters/1/value/2']['most'] ?? null]);
        self::assertSame(['clock', 'uint', '1/1024 s'], [$numbers['']['name'], $numbers['']['type'], $numbers['']['unit']]);
        self::assertSame([['id' => 'wide', 'name' => 'Wide', 'otherCode' => false], ['id' => 'other', 'name' => 'Other', 'otherCode' => true]], $said['variants']);
    }

    /** Variants and parameters are other numbers: what is ready follows from them by what the sidecar says. */
    public function testWhatIsReadyIsComputedByWhatItSays(): void
    {
        [$read, $lowered] = self::whole();
        $said = (new Sidecar($read, $lowered))->describe(Targets::all()['hlsl'], new Options(), 'x');
        self::assertGreaterThan(4, \count($said['ready']['members']));
        self::assertSame(array_column($said['ready']['members'], 'name'), array_keys((array) $said['ready']['results']->jsonSerialize()));
        $uniforms = [];
        foreach ($said['ready']['operations'] as [$operation, , $data]) {
            $uniforms[] = $operation === 'uniform' && \is_string($data) ? $data : 'clock';
        }
        self::assertContains('parameter_stone', $uniforms);
        self::assertSame([], array_diff($uniforms, array_column($said['numbers'], 'name')));
        // The code is the same whatever the numbers are.
        $wide = Documents::reader()->inVariant($read->material, 'wide');
        self::assertSame(Targets::all()['hlsl']->program($lowered), Targets::all()['hlsl']->program(Lowering::lower($wide, self::maps())));
        self::assertNotSame(Targets::all()['hlsl']->program($lowered), Targets::all()['hlsl']->program(Lowering::lower(Documents::reader()->inVariant($read->material, 'other'), self::maps())));
    }

    public function testTexturesTellWhatIsReadFromThem(): void
    {
        $single = self::described('wgsl', new Options('quay', false))['textures'];
        self::assertSame(['quay_map_set_base_colour', 'single', 16, 4, 8, 'colour'], [$single[0]['name'], $single[0]['kind'], $single[0]['width'], $single[0]['values'], $single[0]['bits'], $single[0]['encoding']]);
        self::assertSame([['map' => 'set/base-colour', 'file' => null, 'readings' => [['role' => 'base-colour', 'channels' => 'xyz', 'inverted' => false]]]], $single[0]['layers']);
        $arrays = self::described('wgsl')['textures'];
        self::assertLessThan(\count($single), \count($arrays));
        self::assertEqualsCanonicalizing(array_map(static fn (array $one): string => $one['layers'][0]['map'], $single), array_merge(...array_map(static fn (array $one): array => array_column($one['layers'], 'map'), $arrays)));
    }

    /** @return ShaderSidecarJson */
    private static function described(string $target, Options $options = new Options()): array
    {
        return (new Sidecar(...self::whole()))->describe(Targets::all()[$target], $options, 'x');
    }

    /** @return array{PartialRead, Lowered} */
    private static function whole(): array
    {
        $document = Documents::whole(
            [Documents::lane('main', Documents::step('origin', ['seam' => 30]), Documents::step('size', ['u' => ['parameter' => 'stone', 'factor' => 1, 'offset' => 0]]), Documents::step('pan', ['u' => 0.1]), Documents::step('turn', ['angle' => 12]))],
            [Documents::layer('ground', 'main', 'set'), ['set' => ['parameter' => 'cover']] + Documents::layer('paint', 'main', '', ['opacity' => 40, 'finish' => ['values' => ['tint' => ['parameter' => 'paint']]]])],
        );
        $document['parameters'] = [
            ['id' => 'stone', 'name' => 'Stone', 'kind' => 'number', 'unit' => 'm', 'min' => 1, 'max' => 4, 'step' => 0.1, 'value' => 2.4],
            ['id' => 'paint', 'name' => 'Paint', 'kind' => 'colour', 'value' => [0.9, 0.8, 0.7], 'live' => false],
            ['id' => 'cover', 'name' => 'Cover', 'kind' => 'set', 'value' => 'set'],
        ];
        $document['variants'] = [['id' => 'wide', 'name' => 'Wide', 'base' => '', 'values' => ['stone' => 3.6]], ['id' => 'other', 'name' => 'Other', 'base' => 'wide', 'values' => ['cover' => 'other']]];
        $read = Documents::reader()->salvage($document);
        self::assertSame([], $read->problems);

        return [$read, Lowering::lower($read->material, self::maps())];
    }

    private static function maps(): TestMaps
    {
        return TestMaps::noise()->with(TestMaps::noise('other', seed: 2));
    }
}
