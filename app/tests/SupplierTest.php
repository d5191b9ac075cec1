<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

/** The supplier's catalogue over HTTP, with the stand-in behaving well and badly. */
final class SupplierTest extends ApiTestCase
{
    use SupplierStandIn;

    private const FETCH = '/api/projects/' . self::PROJECT . '/wares';

    protected function setUp(): void
    {
        parent::setUp();
        self::behave();
    }

    private static function behave(string $failure = 'none', int $every = 1, int $latency = 0): void
    {
        $answer = file_get_contents(self::$address . '/behaviour', false, stream_context_create(['http' => ['method' => 'POST', 'header' => 'Content-Type: application/json', 'content' => json_encode(['failure' => $failure, 'every' => $every, 'latency' => $latency], \JSON_THROW_ON_ERROR)]]));
        self::assertIsString($answer);
    }

    public function testTheCatalogueIsSearchedFilteredAndPaged(): void
    {
        $all = $this->api('GET', '/api/supplier/wares');
        self::assertSame([12, 1, 2, 6, 0, ['stone', 'wood', 'ground', 'metal']], [$all['total'], $all['page'], $all['pages'], \count(self::at($all, 'wares')), $all['left'], $all['kinds']]);
        self::assertSame(6, \count(self::at($this->api('GET', '/api/supplier/wares?page=2'), 'wares')));
        $wood = $this->api('GET', '/api/supplier/wares?kind=wood&words=sun+years');
        self::assertSame(['bleached-pine'], array_column(self::at($wood, 'wares'), 'id'));
        self::assertSame(['Open hand', [256, 512], 1.5], [self::at($wood, 'wares', 0, 'licence')['name'], self::at($wood, 'wares', 0)['sides'], self::at($wood, 'wares', 0)['extent']]);
        self::assertSame(0, $this->api('GET', '/api/supplier/wares?side=4096')['total']);
        $this->client->request('GET', '/api/supplier/wares/bleached-pine/preview.png');
        self::assertSame([200, "\x89PNG"], [$this->client->getResponse()->getStatusCode(), substr((string) $this->client->getResponse()->getContent(), 0, 4)]);
    }

    public function testAWareIsReviewedAndKeptLikeFiles(): void
    {
        $looked = $this->api('POST', self::FETCH, ['ware' => 'zinc-sheet', 'side' => 256], 201);
        self::assertSame(['base-colour', 'normal', 'roughness', 'occlusion', 'height'], array_column(self::at($looked, 'maps'), 'role'));
        self::assertSame(array_fill(0, 5, 'zinc-sheet'), array_column(self::at($looked, 'maps'), 'set'));
        self::assertSame([256, 16], [self::at($looked, 'maps', 4)['width'], self::at($looked, 'maps', 4)['bits']]);
        self::assertSame(['LICENCE.txt is no PNG, JPEG, WebP or TGA image.'], array_column(self::at($looked, 'refused'), 'reason'));
        $maps = array_map(static fn (mixed $map): array => ['extent' => 2.4] + array_intersect_key(\is_array($map) ? $map : [], array_flip(['file', 'sha256', 'set', 'role', 'encoding', 'inverted', 'channels'])), self::at($looked, 'maps'));
        $kept = $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => $maps], 201);
        self::assertCount(5, self::at($kept, 'sets', 0, 'maps'));
        self::assertSame('There is no such ware at the supplier\'s.', $this->api('POST', self::FETCH, ['ware' => 'moon-dust', 'side' => 256], 404)['detail']);
        self::assertSame('There is no such ware at the supplier\'s.', $this->api('POST', self::FETCH, ['ware' => '../../etc', 'side' => 256], 404)['detail']);
        self::assertSame('"side": expected a whole number from 1 to 4096.', $this->api('POST', self::FETCH, ['ware' => 'zinc-sheet', 'side' => 0], 422)['detail']);
    }

    public function testOneBadAnswerIsAskedForAgain(): void
    {
        self::behave('busy', 2);
        // The second of every two fails; what comes between is tried once more.
        for ($i = 0; $i < 4; ++$i) {
            self::assertSame(12, $this->api('GET', '/api/supplier/wares')['total']);
        }
        self::behave('cut', 2);
        foreach ([256, 512] as $side) {
            self::assertCount(5, self::at($this->api('POST', self::FETCH, ['ware' => 'boiler-plate', 'side' => $side], 201), 'maps'));
        }
    }

    public function testWhatCannotBeHelpedIsToldAndNothingBreaks(): void
    {
        self::behave('busy');
        self::assertSame('The supplier\'s catalogue answered 503. Try again later.', $this->api('GET', '/api/supplier/wares', null, 502)['detail']);
        self::behave('nonsense');
        self::assertSame('The supplier\'s catalogue answered something that is no list of wares. Try again later.', $this->api('GET', '/api/supplier/wares', null, 502)['detail']);
        self::assertSame('The supplier sent application/json where application/zip was expected.', $this->api('POST', self::FETCH, ['ware' => 'zinc-sheet', 'side' => 256], 502)['detail']);
        self::behave('cut');
        self::assertSame('What the supplier sent did not arrive whole, 3 times. Try again later.', $this->api('POST', self::FETCH, ['ware' => 'zinc-sheet', 'side' => 256], 502)['detail']);
        self::behave(latency: 4600);
        self::assertSame('The supplier\'s catalogue did not answer within 4 seconds. Try again later.', $this->api('GET', '/api/supplier/wares', null, 502)['detail']);
    }
}
