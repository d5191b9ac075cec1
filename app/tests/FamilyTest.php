<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Rilta\Core\Format\Png;

/** Families of alternates: how they are made, what does not fit, and how materials follow them. */
final class FamilyTest extends ApiTestCase
{
    private const SETS = '/api/projects/' . self::PROJECT . '/families';

    /** @return array<mixed> */
    private function family(string ...$sets): array
    {
        return $this->api('POST', self::SETS, ['name' => 'Rocks', 'sets' => $sets], 201);
    }

    /** @return array<string, mixed> */
    private static function choosing(string $family): array
    {
        $steps = [['step' => 'origin', 'values' => ['seam' => 20.0]], ['step' => 'choose', 'values' => ['family' => $family, 'by' => 'object']]];

        return ['lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => $steps]]] + self::document('rock-a');
    }

    public function testAlternatesAreSeenByNameAndBecomeAFamilyInAnOrder(): void
    {
        foreach (['rock-b', 'rock-a', 'sand'] as $set) {
            $this->importSet($set);
        }
        $project = '/api/projects/' . self::PROJECT;
        self::assertSame([['name' => 'rock', 'sets' => ['rock-a', 'rock-b']]], $this->api('GET', $project)['alternates']);
        $family = $this->family('rock-a', 'rock-b');
        self::assertSame(['rocks', ['rock-a', 'rock-b'], []], [$family['name'], $family['sets'], $family['misfits']]);
        $url = '/api/families/' . self::int($family['id']);
        self::assertSame(['sand', 'rock-b', 'rock-a'], $this->api('PATCH', $url, ['sets' => ['sand', 'rock-b', 'rock-a'], 'name' => 'Grounds'])['sets']);
        self::assertSame('grounds', self::at($this->api('GET', $project), 'families', 0)['name']);
        $list = $this->api('GET', "$url/array.json");
        self::assertSame(['rilta-array/1', [0, 1, 2], ['sand', 'rock-b', 'rock-a']], [$list['format'], array_column(self::at($list, 'sets'), 'index'), array_column(self::at($list, 'sets'), 'set')]);
        self::assertSame(['sand/base-colour', 'rock-b/base-colour', 'rock-a/base-colour'], self::at($list, 'arrays', 0, 'maps'));
        $this->api('DELETE', $url, null, 204);
        self::assertSame([], $this->api('GET', $project)['families']);
    }

    public function testAlternatesBecomeAFamilyAsTheyAreImported(): void
    {
        $this->importSet('rock-1');
        $project = '/api/projects/' . self::PROJECT;
        $ask = fn (string ...$sets): array => $this->api('POST', "$project/alternates", ['sets' => $sets]);
        self::assertSame([], $ask('sand', 'silt'));
        self::assertSame([['name' => 'rock', 'sets' => ['rock-1', 'rock-2']]], $ask('Rock 2', 'silt'), 'one that is there already is counted');
        self::assertSame([], $ask());
        $import = fn (string $name, array $families): array => $this->api('POST', "$project/sets", [
            'maps' => [$this->looked("{$name}_albedo.png", Png::bytes(8, 8, 3, str_repeat("\x10\x20\x30", 64)))],
            'families' => $families,
        ], 201);
        self::assertSame([], $import('rock_2', [['name' => 'rock', 'sets' => ['rock-1', 'rock-2']]])['refused']);
        self::assertSame([['rock', ['rock-1', 'rock-2']]], array_map(static fn (mixed $f): array => \is_array($f) ? [$f['name'], $f['sets']] : [], self::at($this->api('GET', $project), 'families')));
        // Another joins the family that there is, at its end.
        self::assertSame([['name' => 'rock', 'sets' => ['rock-1', 'rock-2', 'rock-3']]], $ask('rock-3'));
        self::assertSame([], $ask('rock-2'), 'what is in it already is not offered again');
        $import('rock_3', [['name' => 'rock', 'sets' => ['rock-1', 'rock-2', 'rock-3']]]);
        self::assertSame(['rock-1', 'rock-2', 'rock-3'], self::at($this->api('GET', $project), 'families', 0)['sets']);
        // The maps are kept even if the family cannot be.
        $answer = $import('sand_1', [['name' => 'sand', 'sets' => ['sand-1', 'sand-9']]]);
        self::assertSame([['file' => 'sand', 'reason' => 'The family sand was not made: there is no map set sand-9.']], $answer['refused']);
        self::assertCount(1, self::at($answer, 'sets'));
    }

    public function testWhatDoesNotFitIsNamedAndMended(): void
    {
        $this->importSet('rock-a', 16);
        $this->importSet('rock-b', 16);
        $maps = [];
        foreach (['basecolor' => "\xC8\x64\x32", 'normal' => "\x80\x80\xFF", 'ao' => "\xFF"] as $word => $texel) {
            $maps[] = $this->looked("rock-c_$word.png", Png::bytes(8, 8, \strlen($texel), str_repeat($texel, 64)));
        }
        $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => $maps], 201);
        $family = $this->family('rock-a', 'rock-b', 'rock-c');
        self::assertSame([
            ['rock-c', 'base-colour', true, 'rock-c/base-colour has 8 x 8 pixels, the others 16 x 16'],
            ['rock-c', 'normal', true, 'rock-c/normal has 8 x 8 pixels, the others 16 x 16'],
            ['rock-c', 'roughness', true, 'rock-c has no roughness; 2 of 3 have'],
            ['rock-c', 'occlusion', true, 'rock-c/occlusion has 8 x 8 pixels, the others 16 x 16'],
        ], array_map(static fn (mixed $one): array => \is_array($one) ? [$one['set'], $one['role'], $one['mendable'], $one['text']] : [], self::at($family, 'misfits')));
        $url = '/api/families/' . self::int($family['id']);
        self::assertCount(4, self::at($this->api('GET', "$url/array.json", null, 422), 'problems'), 'the reasons why there is no list yet');
        self::assertSame([], $this->api('POST', "$url/align", ['set' => 'rock-c'])['misfits']);
        self::assertSame([16, 16, 16, 16], array_map(static fn (mixed $array): mixed => \is_array($array) ? $array['width'] : 0, self::at($this->api('GET', "$url/array.json"), 'arrays')));
        $set = array_values(array_filter(self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/sets'), 'sets'), static fn (mixed $s): bool => \is_array($s) && $s['name'] === 'rock-c'))[0];
        self::assertSame([2, 2, 2, 2], array_column(self::at($set, 'maps'), 'number'), 'as new versions');
    }

    public function testMaterialsFollowTheirFamily(): void
    {
        foreach (['rock-a', 'rock-b', 'rock-c'] as $set) {
            $this->importSet($set);
        }
        $family = $this->family('rock-a', 'rock-b');
        $material = $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => self::choosing('rocks')], 201);
        $lowered = $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => self::choosing('rocks')]);
        self::assertContains('rock-b/base-colour', array_keys(self::at($lowered, 'maps')));
        $project = $this->api('GET', '/api/projects/' . self::PROJECT);
        self::assertSame([$material['id']], array_column(self::at($project, 'families', 0, 'uses'), 'id'));
        self::assertSame([1, 1, 0], array_map(static fn (mixed $set): int => \is_array($set) ? \count(self::at($set, 'uses')) : 0, self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/sets'), 'sets')));
        $card = fn (): mixed => self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/materials'), 'materials', 0)['swatch'];
        $swatch = $card();
        $this->api('PATCH', '/api/families/' . self::int($family['id']), ['sets' => ['rock-b', 'rock-c']]);
        self::assertNotSame($swatch, $card(), 'with other sets the picture is another');
        $this->api('DELETE', '/api/families/' . self::int($family['id']), null, 204);
        $lowered = $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => self::choosing('rocks')]);
        self::assertSame([['path' => '/lanes/0/steps/1/values/family', 'message' => 'there is no family "rocks"; there are none']], $lowered['problems']);
    }

    public function testWhatCannotBeAFamilyIsRefused(): void
    {
        $this->importSet('rock-a');
        $this->importSet('rock-b');
        foreach ([
            [['name' => 'x', 'sets' => ['rock-a']], 'This is no family: expected 2 to 8 map sets.'],
            [['name' => 'x', 'sets' => ['rock-a', 'rock-a']], 'This is no family: expected every map set once.'],
            [['name' => 'x', 'sets' => ['rock-a', 'gone']], 'This is no family: there is no map set gone.'],
            [['name' => 'x', 'sets' => 'rock-a'], '"sets": expected a list of at most 8 texts.'],
            [['name' => 'x', 'sets' => ['rock-a', 7]], '"sets/1": expected 1 to 120 characters.'],
            [['name' => 'x', 'sets' => ['first' => 'rock-a', 'second' => 'rock-b']], '"sets": expected a list of at most 8 texts.'],
            [['name' => 'x', 'sets' => ['rock-a', null]], '"sets/1": expected 1 to 120 characters.'],
            [['sets' => ['rock-a', 'rock-b']], '"name": expected 1 to 80 characters.'],
        ] as [$body, $detail]) {
            self::assertSame($detail, $this->api('POST', self::SETS, $body, 422)['detail']);
        }
        $family = $this->family('rock-a', 'rock-b');
        self::assertSame('There is a family rocks already.', $this->api('POST', self::SETS, ['name' => 'Rocks', 'sets' => ['rock-a', 'rock-b']], 422)['detail']);
        self::assertSame('gone is not a set of rocks.', $this->api('POST', '/api/families/' . self::int($family['id']) . '/align', ['set' => 'gone'], 422)['detail']);
        $this->api('PATCH', '/api/families/99999', ['name' => 'y'], 404);
    }
}
