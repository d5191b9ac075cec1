<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Opis\JsonSchema\Validator;
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
}
