<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Opis\JsonSchema\Validator;
use Rilta\Core\Format\Png;
use Rilta\Core\Target\Targets;

/** What of a material leaves for others. */
final class HandOverTest extends ApiTestCase
{
    private const BASE = '/api/projects/' . self::PROJECT;

    protected function setUp(): void
    {
        parent::setUp();
        $this->importSet();
    }

    public function testAMaterialComesAsCodeInEveryLanguage(): void
    {
        $schema = json_encode($this->api('GET', '/api/schema/shader'), \JSON_THROW_ON_ERROR);
        foreach (array_keys(Targets::all()) as $target) {
            $made = $this->api('POST', self::BASE . '/code', ['document' => self::document(), 'target' => $target, 'prefix' => 'wall', 'arrays' => false]);
            self::assertIsString($made['code']);
            self::assertIsArray($made['sidecar']);
            self::assertSame(['rilta-shader/1', $target, $made['file']], [$made['sidecar']['format'], $made['sidecar']['language'], $made['sidecar']['file']]);
            self::assertStringContainsString($target === 'c' ? 'void wall_material(' : 'wallMaterial(', $made['code']);
            $answer = (array) json_decode((string) $this->client->getResponse()->getContent());
            self::assertTrue((new Validator())->validate($answer['sidecar'], $schema)->isValid(), $target);
        }
    }

    public function testWhatIsAskedForWronglyIsSaidAtItsPlace(): void
    {
        $broken = ['lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => [['step' => 'nonsense']]]]] + self::document();
        foreach ([
            ['code', ['target' => 'basic'], '/target', 'expected one of glsl'],
            ['code', ['prefix' => '2nd'], '/prefix', 'expected a lower-case letter'],
            ['code', ['document' => $broken], '/lanes/0/steps/0/step', 'nonsense'],
            ['code', ['variant' => 'none'], '/variants', 'there is no variant "none"'],
            ['layers-at', ['points' => [[0, 0, 0], [1, 2, 3, 4]]], '/points/1', 'expected 3 or 6 numbers'],
            ['layers-at', ['points' => [[0, 0, 0, 0, 0, 0]]], '/points/0', 'not 0, 0, 0'],
            ['layers-at', ['points' => []], '/points', ''],
            ['layers-at', ['points' => [[0, 0, '1']]], '/points/0/2', ''],
        ] as [$of, $wrong, $place, $expected]) {
            $problem = $this->api('POST', self::BASE . "/$of", $wrong + ['document' => self::document(), 'target' => 'hlsl', 'points' => [[0, 0, 0]]], 422);
            $first = self::at($problem, 'problems', 0);
            self::assertSame($place, $first['path']);
            self::assertStringContainsString($expected, self::text($first['message']));
        }
    }

    public function testManyPointsAreToldWhatLiesThere(): void
    {
        $document = self::document();
        $low = ['id' => 'low', 'name' => 'Low', 'lane' => 'main', 'set' => 'rock', 'mask' => [['kind' => 'level', 'values' => ['at' => 1, 'band' => 0, 'fade' => 0, 'breaks' => 0]]]];
        $document['layers'] = [...self::at($document, 'layers'), $low];
        $points = array_map(static fn (int $i): array => [0.3 * $i, $i % 2 === 0 ? 5 : -5, 0, 0, 0, 1], range(0, 499));
        $found = $this->api('POST', self::BASE . '/layers-at', ['document' => $document, 'points' => $points]);
        self::assertSame(['/layers/0', '/layers/1'], array_column(self::at($found, 'layers'), 'path'));
        self::assertEquals(array_merge(...array_fill(0, 250, [[1.0, 0.0], [0.0, 1.0]])), $found['weights']);
    }

    public function testAMaskInColoursHasOneInEachChannel(): void
    {
        $this->importSet();
        // Left red, above green; and a grey one, which is one.
        $pixels = implode('', array_map(static fn (int $i): string => \chr($i % 2 === 0 ? 255 : 0) . \chr($i < 2 ? 255 : 0) . "\0", range(0, 3)));
        $looked = $this->looked('regions_mask.png', Png::bytes(2, 2, 3, $pixels));
        self::assertStringNotContainsString('picture in colours', (string) $this->client->getResponse()->getContent());
        $this->api('POST', self::BASE . '/sets', ['maps' => [$looked, $this->looked('grey_mask.png', Png::bytes(2, 2, 3, str_repeat("\xFF\xFF\xFF\0\0\0", 2)))]], 201);
        $shares = function (string $map, string $reads): array {
            $layer = ['id' => 'sand', 'name' => 'Sand', 'lane' => 'main', 'set' => 'rock', 'mask' => [['kind' => 'map', 'values' => ['map' => $map, 'reads' => $reads]]]];
            $document = ['lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => [['step' => 'origin', 'values' => ['faces' => 'y']]]]], 'layers' => [self::at(self::document(), 'layers', 0), $layer]] + self::document();
            // From above, in the middles of the four texels; downwards in the picture is towards +z.
            $found = $this->api('POST', self::BASE . '/layers-at', ['document' => $document, 'points' => array_map(static fn (int $i): array => [0.25 + 0.5 * ($i % 2), 0, 0.25 + 0.5 * intdiv($i, 2), 0, 1, 0], range(0, 3))]);

            return array_map(static fn (mixed $one): mixed => \is_array($one) ? $one[1] : null, self::at($found, 'weights'));
        };
        self::assertEqualsWithDelta([1, 0, 1, 0], $shares('regions/mask', 'red'), 1e-6);
        self::assertEqualsWithDelta([1, 1, 0, 0], $shares('regions/mask', 'green'), 1e-6);
        self::assertEqualsWithDelta([0, 0, 0, 0], $shares('regions/mask', 'blue'), 1e-6);
        self::assertEqualsWithDelta([1, 0, 1, 0], $shares('grey/mask', 'green'), 1e-6);
    }
}
