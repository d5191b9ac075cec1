<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Rilta\App\Service\Blobs;
use Rilta\App\Service\Collection;
use Rilta\App\Service\Derived;
use Rilta\App\Service\Store;
use Symfony\Component\Process\Process;

/** Files of several machines, in a store that speaks S3: a stand-in of it, on loopback. */
final class StoreTest extends ApiTestCase
{
    private const BUCKET = 'rilta';
    private static ?Process $server = null;
    private static string $address = '';

    public static function setUpBeforeClass(): void
    {
        $socket = stream_socket_server('tcp://127.0.0.1:0') ?: throw new \RuntimeException('No port is free.');
        $port = (int) substr((string) strrchr((string) stream_socket_get_name($socket, false), ':'), 1);
        fclose($socket);
        $root = \dirname(__DIR__, 2);
        self::$server = new Process(['node', "$root/node_modules/.bin/s3rver", '--silent', '--no-vhost-buckets', '-d', sys_get_temp_dir() . '/rilta-store-' . bin2hex(random_bytes(4)), '-a', '127.0.0.1', '-p', (string) $port, '--configure-bucket', self::BUCKET]);
        self::serve();
        self::$address = "s3://S3RVER:S3RVER@127.0.0.1:$port/" . self::BUCKET . '/studio?tls=0';
    }

    public static function tearDownAfterClass(): void
    {
        self::$server?->stop();
    }

    private static function serve(): void
    {
        self::$server?->start();
        self::$server?->waitUntil(static fn (string $type, string $said): bool => str_contains($said, 'listening'));
    }

    protected function setUp(): void
    {
        $_SERVER['RILTA_STORE'] = $_ENV['RILTA_STORE'] = self::$address;
        parent::setUp();
    }

    protected function tearDown(): void
    {
        unset($_SERVER['RILTA_STORE'], $_ENV['RILTA_STORE']);
        parent::tearDown();
    }

    public function testImagesAndBakesLieInTheStoreAndNowhereElse(): void
    {
        // Other tests have stored the same on this machine.
        exec('rm -rf ' . escapeshellarg($this->data() . '/files/blobs'));
        $this->importSet();
        $bytes = $this->file(self::int(self::at($this->api('GET', '/api/projects/' . self::PROJECT), 'sets', 0, 'maps', 0)['id']));
        $sha = hash('sha256', $bytes);
        $store = Store::at(self::$address, '');
        self::assertSame($bytes, $store->read("files/blobs/$sha[0]$sha[1]/$sha"));
        self::assertFileDoesNotExist($this->data() . "/files/blobs/$sha[0]$sha[1]/$sha");

        $this->wait();
        $this->drain();
        $bake = self::int($this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 1024], 201)['id']);
        self::assertSame(1, $this->work());
        self::assertStringEndsWith('.rows', $store->listContents("bakes/$bake")->toArray()[0]->path());
        $this->drain();
        self::assertSame('done', $this->api('GET', "/api/bakes/$bake")['state']);
        $this->client->request('GET', "/api/bakes/$bake/roughness.png");
        $picture = (string) $this->client->getInternalResponse()->getContent();
        self::assertSame($picture, $store->read("bakes/$bake/rock-1024-roughness.png"));
        self::assertSame((string) \strlen($picture), $this->client->getResponse()->headers->get('Content-Length'));
        self::assertSame([], $store->listContents("bakes/$bake")->filter(static fn ($one): bool => str_ends_with($one->path(), '.rows'))->toArray(), 'bands are of no use any more');
        self::assertDirectoryDoesNotExist($this->data() . "/bakes/$bake");
        $path = tempnam(sys_get_temp_dir(), 'rilta-zip');
        $this->client->request('GET', "/api/bakes/$bake/files.zip");
        file_put_contents((string) $path, (string) $this->client->getInternalResponse()->getContent());
        $zip = new \ZipArchive();
        $zip->open((string) $path);
        self::assertSame($picture, $zip->getFromName('rock-1024-roughness.png'));
        unlink((string) $path);

        $this->client->request('DELETE', "/api/bakes/$bake", server: ['HTTP_X_RILTA' => '1']);
        self::assertSame([], $store->listContents("bakes/$bake")->toArray());
    }

    public function testWhatOneMachineHasDerivedIsThereForAll(): void
    {
        $store = Store::at(self::$address, '');
        $name = 'maps/' . bin2hex(random_bytes(8));
        $machines = array_map(fn (string $one): Derived => new Derived($this->data() . "/$one-" . bin2hex(random_bytes(4)), self::$address, $store), ['first', 'second']);
        $made = 0;
        $make = static function () use (&$made): string {
            return 'computed ' . ++$made;
        };
        self::assertSame(['computed 1', 'computed 1', 1], [file_get_contents($machines[0]->file($name, $make)), file_get_contents($machines[1]->file($name, $make)), $made]);
        // One by itself keeps to itself.
        $alone = new Derived($this->data() . '/alone-' . bin2hex(random_bytes(4)), '', $store);
        self::assertSame('computed 2', file_get_contents($alone->file($name, $make)));
    }

    public function testWhatBelongsToNothingIsTakenOutOfTheStore(): void
    {
        $blobs = $this->service(Blobs::class);
        $this->importSet();
        $kept = hash('sha256', $this->file(self::int(self::at($this->api('GET', '/api/projects/' . self::PROJECT), 'sets', 0, 'maps', 0)['id'])));
        $gone = $blobs->put('nobody names it');
        $store = Store::at(self::$address, '');
        $store->write('bakes/999999/rows.000000.rows', 'of a bake that is gone');
        $store->write("derived/maps/$gone-1", 'of an image that is gone');
        $store->write("derived/maps/$kept-1", 'of one that is there');
        $this->service(Collection::class)->collect(now: new \DateTimeImmutable('+3 days'));
        self::assertSame([true, false, false, false, true], [$blobs->has($kept), $blobs->has($gone), $store->fileExists('bakes/999999/rows.000000.rows'), $store->fileExists("derived/maps/$gone-1"), $store->fileExists("derived/maps/$kept-1")]);
    }

    public function testAStoreThatIsAwayIsSaidAndNothingIsTakenForGone(): void
    {
        $this->importSet();
        $map = self::int(self::at($this->api('GET', '/api/projects/' . self::PROJECT), 'sets', 0, 'maps', 0)['id']);
        $bytes = $this->file($map);
        self::$server?->stop();
        try {
            $problem = $this->api('GET', "/api/maps/$map/file", null, 503);
            self::assertSame(['Files are away', 'Stored files cannot be read just now. Nothing is lost; try again in a moment.'], [$problem['title'], $problem['detail']]);
            $this->client->request('GET', '/api/ready');
            self::assertStringContainsString('"files":false', (string) $this->client->getResponse()->getContent());
        } finally {
            self::serve();
        }
        self::assertSame($bytes, $this->file($map));
        self::assertStringContainsString('no longer there', self::text($this->gone($map)['detail']));
    }

    public function testWorkWaitsForAStoreThatIsAway(): void
    {
        $this->importSet();
        $this->wait();
        $this->drain();
        $bake = self::int($this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 256], 201)['id']);
        self::$server?->stop();
        try {
            // More often than what fails by itself is tried.
            for ($i = 0; $i < 4; ++$i) {
                $this->work();
                self::assertSame(['waiting', ''], array_values(array_intersect_key($this->api('GET', "/api/bakes/$bake"), ['state' => 1, 'failure' => 1])), "the time $i");
                $this->wait();
            }
        } finally {
            self::serve();
        }
        $this->drain();
        self::assertSame('done', $this->api('GET', "/api/bakes/$bake")['state']);
    }

    public function testAnAddressThatIsNoneIsSaid(): void
    {
        foreach (['s3://host/bucket', 'http://a:b@host/bucket', 's3://a:b@host', 's3://a:b@host/'] as $wrong) {
            try {
                Store::at($wrong, '');
                self::fail($wrong);
            } catch (\InvalidArgumentException $e) {
                self::assertStringStartsWith('RILTA_STORE: expected s3://KEY:SECRET@HOST/BUCKET', $e->getMessage());
                self::assertStringNotContainsString('a:b', $e->getMessage());
            }
        }
    }

    private function file(int $map): string
    {
        $this->client->request('GET', "/api/maps/$map/file");

        return (string) $this->client->getInternalResponse()->getContent();
    }

    /** @return array<mixed> what is said of a map whose file has gone */
    private function gone(int $map): array
    {
        $sha = hash('sha256', $this->file($map));
        Store::at(self::$address, '')->delete("files/blobs/$sha[0]$sha[1]/$sha");

        return $this->api('GET', "/api/maps/$map/file", null, 422);
    }
}
