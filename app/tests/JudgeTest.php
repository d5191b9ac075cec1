<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Rilta\App\Service\Ending;
use Rilta\Core\Format\Png;
use Rilta\Core\Stage\Stage;

final class JudgeTest extends ApiTestCase
{
    private const URL = '/api/projects/' . self::PROJECT . '/repetition';
    private const SEARCHES = '/api/projects/' . self::PROJECT . '/repeat-searches';

    public function testATileIsSeenToComeAgainAfterItsOwnSize(): void
    {
        $this->grain();
        $document = array_replace_recursive(self::document(), ['lanes' => [['steps' => [1 => ['values' => ['u' => 1.5]]]]]]);
        $found = $this->api('POST', self::URL, ['document' => $document]);
        self::assertEquals([0.5, 2, 8, 32, 128, 500], array_column(self::at($found, 'places'), 'distance'));
        self::assertFalse($found['fine']);
        self::assertGreaterThan(0.9, self::at($found, 'worst')['score']);
        self::assertEqualsWithDelta(1.5, self::at($found, 'worst')['length'], 0.1);
        self::assertLessThan(32, self::at($found, 'noticed')['from']);
        // Asked again, it is what it was.
        self::assertSame($found, $this->api('POST', self::URL, ['document' => $document]));
    }

    public function testTheStepThatHidesARepeatIsKnownByLeavingItOut(): void
    {
        $this->grain();
        $steps = self::at(self::document(), 'lanes', 0, 'steps');
        $document = ['lanes' => [['steps' => [...$steps, ['step' => 'breakup', 'on' => true, 'values' => ['cell' => 0.8, 'shift' => 100.0, 'turn' => 180.0]]]] + self::at(self::document(), 'lanes', 0)]] + self::document();
        $score = fn (string $without): float => (float) json_encode(self::at($this->api('POST', self::URL, ['document' => $document, 'without' => $without]), 'worst')['score']);
        self::assertLessThan($score('/lanes/0/steps/2') - 0.3, $score(''));
        foreach (['/lanes/0/steps/0', '/lanes/0/steps/9', '/layers/0', 'x'] as $none) {
            self::assertSame('/without', self::at($this->api('POST', self::URL, ['document' => $document, 'without' => $none], 422), 'problems', 0)['path']);
        }
    }

    public function testAFineCurveHasMorePlacesAndAVariantIsWorn(): void
    {
        $this->grain();
        $document = self::document();
        $document['parameters'] = [['id' => 'size', 'name' => 'Size', 'kind' => 'number', 'unit' => 'm', 'min' => 0.1, 'max' => 9, 'step' => 0.1, 'value' => 1]];
        $document = array_replace_recursive($document, ['lanes' => [['steps' => [1 => ['values' => ['u' => ['parameter' => 'size']]]]]], 'variants' => [['id' => 'large', 'name' => 'Large', 'values' => ['size' => 3.0]]]]);
        $found = $this->api('POST', self::URL, ['document' => $document, 'variant' => 'large', 'fine' => true]);
        self::assertTrue($found['fine']);
        self::assertCount(11, self::at($found, 'places'));
        self::assertEqualsWithDelta(3.0, self::at($found, 'worst')['length'], 0.1);
    }

    public function testWhatIsFoundHasItsPlaceItsFigureAndItsFix(): void
    {
        $this->importSet();
        $steps = self::at(self::document(), 'lanes', 0, 'steps');
        $document = ['lanes' => [['steps' => [...$steps, ['step' => 'turn', 'on' => true, 'values' => ['angle' => 0]]]] + self::at(self::document(), 'lanes', 0)]] + self::document();
        $ask = fn (array $more, int $status = 200): array => $this->api('POST', '/api/projects/' . self::PROJECT . '/findings', ['document' => $document] + $more, $status);
        $found = self::at($ask(['stage' => Stage::first()]), 'findings');
        $codes = array_column($found, 'code');
        self::assertContains('idle-step', $codes);
        self::assertContains('map-finding', $codes, 'every texel is the same, which the library knows');
        self::assertContains('wrong-density', $codes);
        self::assertNotContains('over-budget', $codes);
        $idle = self::at($found, (int) array_search('idle-step', $codes, true));
        self::assertSame(['/lanes/0/steps/2', 'note', ['label' => 'Take it out', 'operations' => [['op' => 'remove', 'path' => '/lanes/0/steps/2']]], null], [$idle['path'], $idle['severity'], $idle['fix'], $idle['map']]);
        $map = self::at($found, (int) array_search('map-finding', $codes, true));
        self::assertStringStartsWith('rock/', self::text(self::at($map, 'map')['name']));
        self::assertNotContains('wrong-density', array_column(self::at($ask([]), 'findings'), 'code'), 'without a stage nobody knows');
        self::assertSame('/profile', self::at($ask(['profile' => 'huge'], 422), 'problems', 0)['path']);
    }

    public function testCostsAreToldOfTheWholeAndOfEachPart(): void
    {
        $this->importSet();
        $steps = self::at(self::document(), 'lanes', 0, 'steps');
        $document = ['lanes' => [['steps' => [...$steps, ['step' => 'breakup', 'on' => true, 'values' => (object) []]]] + self::at(self::document(), 'lanes', 0)]] + self::document();
        $costs = $this->api('POST', '/api/projects/' . self::PROJECT . '/costs', ['document' => $document]);
        self::assertSame([9, 36, 4], array_values(array_intersect_key(self::at($costs, 'whole'), array_flip(['taps', 'fetches', 'textures']))));
        self::assertSame(24, self::at($costs, 'saves', '/lanes/0/steps/2')['fetches']);
        self::assertSame(36, self::at($costs, 'saves', '/layers/0')['fetches']);
        self::assertSame([36, 16], self::at($costs, 'over', 'small')['map reads']);
        self::assertSame([], self::at($costs, 'over', 'large'));
    }

    public function testAProjectHasBudgetsOfItsOwn(): void
    {
        $this->importSet();
        $base = '/api/projects/' . self::PROJECT;
        $own = ['format' => 'rilta-budget/1', 'name' => 'quay-tablet', 'label' => 'Quay tablet', 'help' => '', 'mapReads' => 2, 'maps' => 9, 'mebibytes' => 48, 'operations' => 900];
        self::assertSame([$own], $this->api('PUT', "$base/budgets", ['budget' => $own]));
        self::assertSame([$own], self::at($this->api('GET', $base), 'budgets'));
        self::assertSame(['small', 'middle', 'large'], array_column(self::at($this->api('GET', '/api/catalogue'), 'budgets'), 'name'));
        $ask = fn (): array => self::at($this->api('POST', "$base/findings", ['document' => self::document(), 'profile' => 'quay-tablet']), 'findings');
        $found = array_column($ask(), 'text', 'code');
        self::assertStringStartsWith('12 map reads, and “Quay tablet” allows 2.', self::text($found['over-budget'] ?? ''));
        self::assertSame([12, 2], self::at($this->api('POST', "$base/costs", ['document' => self::document()]), 'over', 'quay-tablet')['map reads']);
        // Other limits under the same name are another answer.
        self::assertSame(30, self::at($this->api('PUT', "$base/budgets", ['budget' => ['mapReads' => 30] + $own]), 0)['mapReads']);
        self::assertNotContains('over-budget', array_column($ask(), 'code'));
        $problems = self::at($this->api('PUT', "$base/budgets", ['budget' => ['name' => 'small', 'maps' => 0] + $own], 422), 'problems');
        self::assertSame(['/name', '/maps'], array_column($problems, 'path'));
        self::assertSame([], $this->api('DELETE', "$base/budgets/quay-tablet"));
        $this->api('DELETE', "$base/budgets/quay-tablet", status: 404);
        self::assertSame('/profile', self::at($this->api('POST', "$base/findings", ['document' => self::document(), 'profile' => 'quay-tablet'], 422), 'problems', 0)['path']);
    }

    public function testWhatHidesARepeatIsLookedForByTheWorkers(): void
    {
        $this->grain();
        $document = array_replace_recursive(self::document(), ['lanes' => [['steps' => [0 => ['values' => ['faces' => 'y']], 1 => ['values' => ['u' => 1.5]]]]]]);
        $asked = $this->api('POST', self::SEARCHES, ['document' => $document, 'fetches' => 3], 202);
        self::assertSame(['waiting', 0, 3, null], [$asked['state'], $asked['done'], $asked['fetches'], $asked['found']]);
        $this->drain();
        $search = $this->api('GET', '/api/repeat-searches/' . self::int($asked['id']));
        self::assertSame('done', $search['state']);
        self::assertGreaterThan(5, $search['done']);
        $found = self::at($search, 'found');
        self::assertGreaterThan(0.9, self::at($found, 'curve', 'worst')['score']);
        $best = self::at($found, 'offers', 0);
        self::assertLessThan(0.3, self::at($best, 'curve', 'worst')['score']);
        self::assertLessThanOrEqual(3, self::at($best, 'cost')['fetches']);
        self::assertSame("\x89PNG", substr((string) base64_decode(self::text($best['picture']), true), 0, 4));
        // Who takes it finds what was told.
        self::assertSame('add', self::at($best, 'operations', 0)['op']);
        $document = ['lanes' => [['steps' => [...self::at($document, 'lanes', 0, 'steps'), self::at($best, 'operations', 0)['value']]] + self::at($document, 'lanes', 0)]] + $document;
        $taken = $this->api('POST', self::URL, ['document' => $document, 'fine' => true]);
        self::assertEqualsWithDelta(self::at($best, 'curve', 'worst')['score'], self::at($taken, 'worst')['score'], 1e-9);
    }

    public function testASearchCanBeGivenUpAndIsPutDownWhenTheWorkerEnds(): void
    {
        $this->grain();
        $first = self::int($this->api('POST', self::SEARCHES, ['document' => self::document(), 'fetches' => 12], 202)['id']);
        self::assertSame('cancelled', $this->api('POST', "/api/repeat-searches/$first/cancel", [])['state']);
        $second = self::int($this->api('POST', self::SEARCHES, ['document' => self::document(), 'fetches' => 12], 202)['id']);
        $this->service(Ending::class)->tell();
        $this->work();
        $this->work();
        self::assertSame(['cancelled', null], [$this->api('GET', "/api/repeat-searches/$first")['state'], $this->api('GET', "/api/repeat-searches/$first")['found']]);
        $waiting = $this->api('GET', "/api/repeat-searches/$second");
        self::assertSame(['waiting', ''], [$waiting['state'], $waiting['failure']], 'it is begun anew by another');
    }

    public function testSoManySearchesMayWaitAndNotMore(): void
    {
        $this->grain();
        for ($n = 0; $n < 8; ++$n) {
            $this->api('POST', self::SEARCHES, ['document' => self::document(), 'fetches' => 12], 202);
        }
        $this->api('POST', self::SEARCHES, ['document' => self::document(), 'fetches' => 12], 429);
        self::assertSame('/fetches', self::at($this->api('POST', self::SEARCHES, ['document' => self::document(), 'fetches' => 0], 422), 'problems', 0)['path']);
        $this->api('POST', self::SEARCHES, ['document' => 7, 'fetches' => 12], 422);
    }

    /** A set of one map of noise, 8 texels a side. */
    private function grain(): void
    {
        mt_srand(5);
        $texels = implode('', array_map(static fn (): string => str_repeat(\chr(mt_rand(20, 235)), 3), range(1, 64)));
        $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => [$this->looked('rock_basecolor.png', Png::bytes(8, 8, 3, $texels), 2.0)]], 201);
    }
}
