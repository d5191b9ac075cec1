<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Rilta\Core\Stage\Stage;

final class LowerTest extends ApiTestCase
{
    public function testADocumentBecomesCodeSlotsAndViews(): void
    {
        $this->importSet();
        $lowered = $this->lower(self::document());
        self::assertSame(['/lanes/0/steps/0/values/seam', '/lanes/0/steps/1/values/u', '/surface/values/density'], array_column(self::at($lowered, 'slots'), 'path'));
        self::assertStringContainsString('RiltaMaterial riltaMaterial(RiltaSurface s)', self::text($lowered['material']));
        self::assertContains('station:/lanes/0/steps/1', array_column(self::at($lowered, 'views'), 'name'));
        self::assertSame(['taps' => 3, 'fetches' => 12, 'maps' => 4, 'bytes' => (64 + 16 + 4 + 1) * (4 + 4 + 1 + 1)], $lowered['cost']);
        self::assertSame(['world position, tri-planar', '{u} m per repeat'], array_column(self::at($lowered, 'lanes', 0, 'steps'), 'phrase'));
    }

    public function testFarFromTheWorldsOriginPlacesAreCountedFromElsewhere(): void
    {
        $this->importSet();
        $far = $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => self::document(), 'far' => true]);
        $near = $this->lower(self::document());
        self::assertSame([true, false], [$far['far'], $near['far']]);
        self::assertNotSame($near['code'], $far['code']);
        $uniforms = static fn (array $lowered): array => array_values(array_filter(array_column(self::at($lowered, 'prelude', 'operations'), 2), static fn (mixed $name): bool => \is_string($name) && str_starts_with($name, 'riltaOrigin')));
        self::assertSame([], $uniforms($near));
        self::assertEqualsCanonicalizing(['riltaOriginX', 'riltaOriginY', 'riltaOriginZ'], $uniforms($far));
        self::assertNull(self::at($far, 'lanes', 0)['exactWithin']);
        $steps = self::at(self::document(), 'lanes', 0, 'steps');
        $document = ['lanes' => [['steps' => [...$steps, ['step' => 'scatter', 'on' => true, 'values' => ['turn' => 90.0]]]] + self::at(self::document(), 'lanes', 0)]] + self::document();
        $scattered = $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => $document, 'far' => true]);
        self::assertGreaterThan(1000, self::at($scattered, 'lanes', 0)['exactWithin'], 'turned about the origin: so far, and no further');
        $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => self::document(), 'far' => 'much'], 422);
    }

    public function testNumbersKeepTheHashAndStructureChangesIt(): void
    {
        $this->importSet();
        $other = self::document();
        $other = array_replace_recursive($other, ['lanes' => [['steps' => [1 => ['values' => ['u' => 7.5]]]]]]);
        self::assertSame($this->lower(self::document())['hash'], $this->lower($other)['hash']);
        $other = array_replace_recursive($other, ['lanes' => [['steps' => [['values' => ['space' => 'object']]]]]]);
        self::assertNotSame($this->lower(self::document())['hash'], $this->lower($other)['hash']);
    }

    public function testADocumentBecomesLegsThatAreTheSameInAnyOrder(): void
    {
        $this->importSet();
        $multipass = function (string ...$order): array {
            $steps = array_map(static fn (string $step): array => ['step' => $step, 'values' => $step === 'mirror' ? ['u' => 'other'] : (object) []], $order);

            return $this->api('POST', '/api/projects/' . self::PROJECT . '/multipass', ['document' => ['lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => $steps]]] + self::document()]);
        };
        $one = $multipass('origin', 'turn', 'mirror');
        $other = $multipass('origin', 'mirror', 'turn', 'turn');
        [$origin, $turn, $mirror] = self::at($one, 'multipass', 'lanes', 0, 'passes');
        self::assertSame([$origin, $mirror, $turn, $turn], self::at($other, 'multipass', 'lanes', 0, 'passes'));
        self::assertSame(self::at($one, 'multipass', 'end')['hash'], self::at($other, 'multipass', 'end')['hash']);
        self::assertSame(['/values/pivotU', '/values/pivotV', '/values/angle'], array_column(self::at($one, 'multipass', 'passes', self::text($turn), 'numbers'), 'path'));
        self::assertStringContainsString('riltaMaterial', self::text(self::at($one, 'multipass', 'end')['material']));
    }

    public function testWhatDoesNotComeApartSaysWhy(): void
    {
        $this->importSet();
        $multipass = fn (array $more): array => $this->api('POST', '/api/projects/' . self::PROJECT . '/multipass', ['document' => $more + self::document()]);
        $apart = $multipass(['layers' => [['faces' => ['+y' => 'rock']] + self::at(self::document(), 'layers', 0)]]);
        self::assertSame(['Sides with sets or colours of their own are not handed on.', null], [$apart['why'], $apart['multipass']]);
        $cut = $multipass(['surface' => ['values' => ['kind' => 'cut-out']]]);
        self::assertSame(['', 'cut-out'], [$cut['why'], self::at($cut, 'multipass', 'end', 'surface')['kind']]);
        self::assertContains('coverage', self::at($cut, 'multipass', 'end', 'channels'));
    }

    public function testAMissingSetIsNamedWithItsPlaceAndTheRestIsShown(): void
    {
        $this->importSet();
        $document = array_merge_recursive(self::document(), ['layers' => [['id' => 'gone', 'name' => 'Gone', 'lane' => 'main', 'set' => 'lost']]]);
        $lowered = $this->lower($document);
        self::assertSame('/layers/1/set', self::at($lowered, 'problems', 0)['path']);
        self::assertStringContainsString('there are rock', self::text(self::at($lowered, 'problems', 0)['message']));
        self::assertSame($this->lower(self::document())['material'], $lowered['material'], 'the ground is what it was');
    }

    public function testAStepOfALaterVersionKeepsThePlacesOfTheOthers(): void
    {
        $this->importSet();
        $steps = self::at(self::document(), 'lanes', 0, 'steps');
        array_splice($steps, 1, 0, [['step' => 'fold', 'values' => ['times' => 3]]]);
        $document = ['lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => $steps]]] + self::document();
        $lowered = $this->lower($document);
        self::assertSame(['/lanes/0/steps/1/step'], array_column(self::at($lowered, 'problems'), 'path'));
        $steps = self::at($lowered, 'lanes', 0, 'steps');
        self::assertNull($steps[1]);
        self::assertSame('u', self::at($steps, 2)['mainControl']);
        self::assertContains('/lanes/0/steps/2/values/u', array_column(self::at($lowered, 'slots'), 'path'));
    }

    public function testALaneTellsWhatRidesOnItAndWhatThatCosts(): void
    {
        $this->importSet();
        $document = array_merge_recursive(self::document(), ['lanes' => [['id' => 'idle', 'name' => 'Idle', 'steps' => [['step' => 'origin', 'values' => ['faces' => 'six']]]]]]);
        $lowered = $this->lower($document);
        $cost = self::at($lowered, 'lanes', 0, 'cost');
        self::assertSame(['/layers/0'], $cost['layers']);
        self::assertSame(self::at($lowered, 'cost')['fetches'], $cost['fetches']);
        self::assertEquals(['taps' => 6, 'fetches' => 0, 'maps' => [], 'layers' => [], 'directions' => ['+x', '-x', '+y', '-y', '+z', '-z']], self::at($lowered, 'lanes', 1, 'cost'));
    }

    public function testWhatIsNoDocumentIsRefused(): void
    {
        foreach ([['format' => 'rilta-material/9'], [], 'a wall'] as $document) {
            $problem = $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => $document], 422);
            self::assertSame('/format', self::at($problem, 'problems', 0)['path']);
        }
    }

    public function testTheProbeFollowsALineOfSight(): void
    {
        $this->importSet();
        $trail = $this->probe([-3.0, 0.5, 5.0], [0.0, 0.0, -1.0]);
        self::assertSame('cube-1', self::at($trail, 'object')['id']);
        self::assertEqualsWithDelta([-3.0, 0.5, 0.5], self::at($trail, 'position'), 1e-9);
        $readings = [];
        foreach (self::at($trail, 'stops') as $stop) {
            foreach (self::at($stop, 'readings') as $reading) {
                $readings[self::text(self::at($stop)['label']) . ' ' . self::text(self::at($reading)['name'])] = self::at($reading, 'values');
            }
        }
        self::assertEqualsWithDelta([-1.5, -0.25], $readings['Size Coordinate on z'], 1e-9, 'two metres a repeat');
        self::assertEqualsWithDelta([200.0, 100.0, 50.0], $readings['Result Base colour, sRGB'], 1e-9);
        self::assertEqualsWithDelta([0.6], $readings['Result Roughness'], 1e-9);
        self::assertStringContainsString('Coordinate on z', self::text($trail['text']));
    }

    public function testASightOfNothingIsNoError(): void
    {
        $this->importSet();
        self::assertNull($this->probe([0.0, 5.0, 5.0], [0.0, 1.0, 0.0])['object']);
    }

    public function testTheProbeReadsWhatAnObjectWears(): void
    {
        $this->importSet();
        $painted = static fn (string $name, array $tint): array => ['format' => 'rilta-material/2', 'name' => $name, 'lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => [['step' => 'origin', 'on' => true, 'values' => []]]]], 'layers' => [['id' => 'all', 'name' => 'All', 'lane' => 'main', 'set' => '', 'finish' => ['values' => ['tint' => $tint]]]]];
        $green = $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => $painted('Green', [0, 1, 0])], 201);
        $text = fn (?int $wears): string => self::text($this->probe([-3.0, 0.5, 5.0], [0.0, 0.0, -1.0], $painted('Red', [1, 0, 0]), $wears)['text']);
        self::assertMatchesRegularExpression('/linear +1\.0000 +0\.0000 +0\.0000/', $text(null));
        self::assertMatchesRegularExpression('/linear +0\.0000 +1\.0000 +0\.0000/', $text(self::int($green['id'])));
        // What there is no more is not worn; what belongs to another project neither.
        self::assertSame($text(null), $text(999999));
        $this->api('DELETE', '/api/materials/' . self::int($green['id']), null, 204);
        self::assertSame($text(null), $text(self::int($green['id'])));
    }

    /**
     * @param list<float>       $eye
     * @param list<float>       $ray
     * @param array<mixed>|null $document
     * @param ?int              $wears    of the first cube
     *
     * @return array<mixed>
     */
    private function probe(array $eye, array $ray, ?array $document = null, ?int $wears = null): array
    {
        $stage = Stage::first();
        $objects = self::at($stage, 'objects');
        $objects[1] = ($wears === null ? [] : ['wears' => $wears]) + self::at($stage, 'objects', 1);

        return $this->api('POST', '/api/projects/' . self::PROJECT . '/probe', [
            'document' => $document ?? self::document(),
            'stage' => ['objects' => $objects] + $stage,
            'eye' => $eye,
            'ray' => $ray,
            'rayRight' => [$ray[0] + 0.001, $ray[1], $ray[2]],
            'rayDown' => [$ray[0], $ray[1] - 0.001, $ray[2]],
        ]);
    }
}
