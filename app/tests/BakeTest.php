<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Doctrine\DBAL\Driver\PDO\Exception as PdoException;
use Doctrine\DBAL\Exception\ConnectionLost;
use Doctrine\ORM\EntityManagerInterface;
use League\Flysystem\DirectoryListing;
use League\Flysystem\FileAttributes;
use League\Flysystem\FilesystemOperator;
use League\Flysystem\UnableToDeleteFile;
use Rilta\App\Entity\Bake;
use Rilta\App\Message\ComputeRegion;
use Rilta\App\Service\Attempts;
use Rilta\App\Service\BakeFiles;
use Rilta\App\Service\Bakery;
use Rilta\App\Service\Ending;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\Png;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\Console\Input\ArrayInput;
use Symfony\Component\Console\Output\BufferedOutput;
use Symfony\Component\HttpKernel\KernelInterface;
use Symfony\Component\Messenger\Envelope;
use Symfony\Component\Messenger\Exception\HandlerFailedException;
use Symfony\Component\Messenger\Exception\RecoverableMessageHandlingException;
use Symfony\Component\Messenger\Middleware\MiddlewareInterface;
use Symfony\Component\Messenger\Middleware\StackInterface;
use Symfony\Component\Messenger\Middleware\StackMiddleware;
use Symfony\Component\Messenger\Stamp\ReceivedStamp;
use Symfony\Component\Messenger\Stamp\RedeliveryStamp;

final class BakeTest extends ApiTestCase
{
    public function testABakeIsCutIntoRegionsAndBecomesFiles(): void
    {
        $bake = $this->ask(1024);
        // And one that puts them together.
        $regions = \count(TileBake::regions(1024)) + 1;
        self::assertSame(['waiting', ['done' => 0, 'all' => $regions]], [$bake['state'], $bake['regions']]);
        self::assertSame(1, $this->work());
        self::assertSame(['done' => 1, 'all' => $regions], $this->show($bake)['regions'], 'progress can be seen');
        $this->drain();
        $done = $this->show($bake);
        self::assertSame(['done', true], [$done['state'], self::at($done, 'facts')['seamless']]);
        self::assertEqualsWithDelta(2.0, self::at($done, 'facts')['width'], 1e-9);
        self::assertSame(['rock-1024-base-colour.png', 'rock-1024-normal.png', 'rock-1024-roughness.png', 'rock-1024-metallic.png', 'rock-1024-occlusion.png'], array_column(self::at($done, 'files'), 'name'));
        $this->client->request('GET', self::text(self::at($done, 'files', 0)['url']));
        $image = ImageFile::fromBytes($this->client->getInternalResponse()->getContent(), 'baked.png');
        self::assertSame([1024, 1024], [$image->width, $image->height]);
        self::assertSame(0xFF3264C8, $image->decode()->texels[777]);
        self::assertStringContainsString('attachment', (string) $this->client->getResponse()->headers->get('Content-Disposition'));
    }

    public function testHeightsAreBakedInTheir16BitsWhereAMapTellsThem(): void
    {
        $this->importSet();
        $heights = pack('n*', ...array_map(static fn (int $i): int => $i * 1021 % 65536, range(0, 63)));
        $map = ['set' => 'rock'] + $this->looked('rock_height.png', Png::bytes(8, 8, 1, $heights, true), 2.0);
        $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => [$map]], 201);
        $bake = $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 256], 201);
        $this->drain();
        self::assertSame('rock-256-height.png', array_column(self::at($this->show($bake), 'files'), 'name')[5] ?? '');
        $this->client->request('GET', '/api/bakes/' . self::int($bake['id']) . '/height.png');
        $image = ImageFile::fromBytes($this->client->getInternalResponse()->getContent(), 'height.png');
        self::assertTrue($image->deep);
        // 32 pixels a texel, read between texels: the mean of 8 bits and of 16 would differ by more.
        self::assertEqualsWithDelta(1021 * 9 * 0.5 ** 2 + (1021 + 1021 * 8 + 0) * 0.25, $image->first()->texels[256 * 32 + 32], 260.0);
        self::assertGreaterThan(256, \count(array_unique($image->first()->texels)), 'more steps than 8 bits have');
    }

    public function testABakeDoesNotMixVersionsOfAMap(): void
    {
        $bake = $this->ask(1024);
        self::assertSame(1, $this->work());
        $set = self::at($this->api('GET', '/api/projects/' . self::PROJECT), 'sets', 0);
        $this->api('POST', '/api/maps/' . self::int(self::at($set, 'maps', 0)['id']) . '/fix', ['fix' => 'invert']);
        // Another worker, or this one after a rest, would read the new version.
        $this->service(Bakery::class)->rest();
        $this->drain();
        $failed = $this->show($bake);
        self::assertSame(['failed', 'A map was changed while this was being baked. Bake it again.'], [$failed['state'], $failed['failure']]);
    }

    public function testASwatchFollowsHowMapsAreRead(): void
    {
        $this->importSet();
        $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => self::document()], 201);
        $swatch = fn (): string => self::text(self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/materials'), 'materials', 0)['swatch']);
        $picture = function () use ($swatch): string {
            $this->client->request('GET', $swatch());

            return hash('sha256', (string) $this->client->getInternalResponse()->getContent());
        };
        [$address, $before] = [$swatch(), $picture()];
        $roughness = self::int(self::at($this->api('GET', '/api/projects/' . self::PROJECT), 'sets', 0, 'maps', 2)['id']);
        $this->api('PATCH', "/api/maps/$roughness", ['inverted' => true]);
        self::assertNotSame($address, $swatch());
        self::assertNotSame($before, $picture());
        $this->api('PATCH', "/api/maps/$roughness", ['inverted' => false]);
        self::assertSame($before, $picture());
    }

    public function testASecondBakeTakesANewName(): void
    {
        self::assertSame(['rock-256', 'rock-256-2', 'rock-256-3'], [$this->ask(256)['name'], $this->ask(256, false)['name'], $this->ask(256, false)['name']]);
    }

    public function testACancelledBakeIsNotWorkedOn(): void
    {
        $bake = $this->ask(256);
        $id = self::int($bake['id']);
        self::assertSame('cancelled', $this->api('POST', "/api/bakes/$id/cancel", [])['state']);
        $this->drain();
        self::assertSame(0, self::at($this->show($bake), 'regions')['done']);
        $this->client->request('GET', "/api/bakes/$id/base-colour.png");
        self::assertSame(404, $this->client->getResponse()->getStatusCode());
    }

    /** A worker writes once more, and takes that away itself. */
    public function testWhatIsThrownAwayWhileItIsWorkedOnGoesWhole(): void
    {
        $bake = $this->ask(1024);
        self::assertSame(1, $this->work());
        $id = self::int($bake['id']);
        $folder = $this->files() . "/$id";
        self::assertNotSame([], glob("$folder/*.rows"));
        $this->client->request('DELETE', "/api/bakes/$id", server: ['HTTP_X_RILTA' => '1']);
        self::assertSame(204, $this->client->getResponse()->getStatusCode());
        self::assertDirectoryDoesNotExist($folder);
        self::assertSame([], $this->service(Connection::class)->fetchAllAssociative('SELECT * FROM bake_region WHERE bake_id = ?', [$id]));
        $this->drain();
        self::assertSame([], glob("$folder/*"));
    }

    /** A worker tidies up what somebody throws away: what goes under one's hands stops neither. */
    public function testWhatVanishesWhileABakeIsThrownAwayStopsNobody(): void
    {
        $bake = $this->service(EntityManagerInterface::class)->find(Bake::class, self::int($this->ask(64)['id'])) ?? throw new \LogicException('No bake.');
        $store = $this->createMock(FilesystemOperator::class);
        $store->method('listContents')->willReturn(new DirectoryListing([new FileAttributes('bakes/1/0.000000.rows'), new FileAttributes('bakes/1/base-colour.png')]));
        $store->expects(self::exactly(2))->method('delete')->willThrowException(UnableToDeleteFile::atLocation('bakes/1/0.000000.rows'));
        $store->expects(self::once())->method('deleteDirectory')->willThrowException(new \RuntimeException('SplFileInfo::getType(): Lstat failed'));
        (new BakeFiles($store))->forget($bake);
    }

    public function testWhatAWorkerDiedOverIsTakenOver(): void
    {
        $bake = $this->ask(256);
        $this->take('small', 3);
        self::assertSame(0, $this->work(), 'somebody says now and then that it is in hand');
        $this->take('small', 60);
        $this->drain();
        self::assertSame('done', $this->show($bake)['state']);
        self::assertSame([], $this->service(Connection::class)->fetchFirstColumn("SELECT id FROM queue WHERE queue_name = 'small'"));
    }

    public function testAnAssemblyThatDiedIsTakenOver(): void
    {
        $bake = $this->ask(256);
        self::assertSame(1, $this->work());
        self::assertSame(['waiting', ['done' => 1, 'all' => 2]], [$this->show($bake)['state'], $this->show($bake)['regions']]);
        $this->take('small', 60);
        $this->drain();
        self::assertSame('done', $this->show($bake)['state']);
        self::assertSame([], glob($this->files() . '/' . self::int($bake['id']) . '/*.rows'), 'bands go when the result is there');
    }

    public function testAWorkerIsToldWhatItsOptionsMean(): void
    {
        $application = new Application($this->service(KernelInterface::class));
        foreach (['--seconds' => 'abc', '--limit' => '0'] as $option => $value) {
            $output = new BufferedOutput();
            self::assertSame(2, $application->doRun(new ArrayInput(['command' => 'work', $option => $value]), $output));
            self::assertSame("$option: expected a number above 0, found $value", trim($output->fetch()));
        }
    }

    public function testAWorkerWhoseClockIsOffTakesNothing(): void
    {
        $bake = $this->ask(64);
        $application = new Application($this->service(KernelInterface::class));
        foreach ([60 => 'behind', -60 => 'ahead of'] as $off => $said) {
            $this->service(Connection::class)->executeStatement("SET timestamp = UNIX_TIMESTAMP() + $off");
            $output = new BufferedOutput();
            self::assertSame(1, $application->doRun(new ArrayInput(['command' => 'work', '--once' => true]), $output));
            // The database tells whole seconds.
            self::assertMatchesRegularExpression("/^The clock of this machine is (59|60|61) s $said that of the database\\./", $output->fetch());
            $this->service(Connection::class)->executeStatement('SET timestamp = DEFAULT');
        }
        self::assertSame('waiting', $this->show($bake)['state']);
        $this->drain();
        self::assertSame('done', $this->show($bake)['state']);
    }

    public function testARegionThatIsDeliveredTwiceIsCountedOnce(): void
    {
        $bake = $this->ask(1024);
        $db = $this->service(Connection::class);
        $again = static fn (): int|string => $db->executeStatement("INSERT INTO queue (body, headers, queue_name, created_at, available_at) SELECT body, headers, queue_name, created_at, available_at FROM queue WHERE queue_name = 'large'");
        self::assertGreaterThan(1, $again());
        $this->drain();
        self::assertSame('done', $this->show($bake)['state']);
        self::assertSame(0, $this->figure("SELECT COUNT(*) FROM queue WHERE queue_name = 'large'"));
        self::assertSame(1, $this->figure('SELECT attempts FROM bake_region ORDER BY pass DESC LIMIT 1'), 'and put together once');
    }

    public function testAnAssemblyIsPutDownWhenTheWorkerEndsAndStopsWhenItIsCancelled(): void
    {
        $bake = $this->ask(256);
        $id = self::int($bake['id']);
        $this->work();
        $this->service(Ending::class)->tell();
        $this->work();
        self::assertSame('waiting', $this->show($bake)['state']);
        self::assertSame([0, null], array_map(static fn (mixed $one): mixed => is_numeric($one) ? (int) $one : $one, array_values((array) $this->service(Connection::class)->fetchAssociative('SELECT r.attempts, q.delivered_at FROM bake_region r, queue q WHERE r.bake_id = ? AND r.done = 0 AND q.queue_name = \'small\'', [$id]))), 'free for the next worker at once, and not counted');
        self::assertNotSame([], glob($this->files() . "/$id/*.rows"), 'and all that it needs is there');
        self::assertSame('cancelled', $this->api('POST', "/api/bakes/$id/cancel", [])['state']);
        $this->drain();
        self::assertSame('cancelled', $this->show($bake)['state']);
    }

    public function testWhatKillsEveryWorkerIsGivenUpAndCanBeTriedAgain(): void
    {
        $bake = $this->ask(1024);
        $this->work();
        $this->service(Connection::class)->executeStatement('UPDATE bake_region SET attempts = 12 WHERE done = 0');
        $this->drain();
        $failed = $this->show($bake);
        self::assertSame('failed', $failed['state']);
        self::assertStringContainsString('died again and again', self::text($failed['failure']));
        $again = $this->api('POST', '/api/bakes/' . self::int($bake['id']) . '/again', []);
        self::assertSame(['waiting', '', 1], [$again['state'], $again['failure'], self::at($again, 'regions')['done']], 'what was computed stays');
        $this->drain();
        self::assertSame('done', $this->show($bake)['state']);
        self::assertSame('done', $this->api('POST', '/api/bakes/' . self::int($bake['id']) . '/again', [])['state'], 'what is done is not begun again');
    }

    public function testADatabaseThatGoesAwayIsNoFaultOfTheWork(): void
    {
        $this->ask(256);
        $region = $this->figure('SELECT MIN(id) FROM bake_region');
        $lost = new ConnectionLost(PdoException::new(new \PDOException('MySQL server has gone away')), null);
        $handle = function (\Throwable $thrown, int $times) use ($region): string {
            $envelope = new Envelope(new ComputeRegion($region), [new ReceivedStamp('small'), new RedeliveryStamp($times)]);
            $fails = new class($thrown) implements MiddlewareInterface {
                public function __construct(private readonly \Throwable $thrown)
                {
                }

                public function handle(Envelope $envelope, StackInterface $stack): Envelope
                {
                    throw new HandlerFailedException($envelope, [$this->thrown]);
                }
            };
            try {
                $this->service(Attempts::class)->handle($envelope, new StackMiddleware($fails));
            } catch (\Throwable $e) {
                return $e::class . ' ' . $this->figure('SELECT MAX(attempts) FROM bake_region');
            }

            return 'handled';
        };
        // Not counted, even if that cannot be written, and tried for half an hour; all else counts.
        self::assertSame(RecoverableMessageHandlingException::class . ' 0', $handle($lost, 449));
        $broken = $this->createStub(Connection::class);
        $broken->method('executeStatement')->willThrowException($lost);
        try {
            (new Attempts($broken))->handle(new Envelope(new ComputeRegion($region), [new ReceivedStamp('small')]), new StackMiddleware());
        } catch (\Throwable $e) {
            self::assertInstanceOf(RecoverableMessageHandlingException::class, $e);
        }
        self::assertSame(HandlerFailedException::class . ' 1', $handle($lost, 450));
        self::assertSame(HandlerFailedException::class . ' 2', $handle(new \RuntimeException('Its own.'), 0));
    }

    public function testATileThatCannotRepeatSaysSoAndCanBeCut(): void
    {
        $this->importSet();
        $lane = ['id' => 'main', 'name' => 'Main', 'steps' => [['step' => 'origin'], ['step' => 'size', 'values' => ['u' => 2.0]], ['step' => 'breakup', 'values' => ['cell' => 0.7]]]];
        $document = ['lanes' => [$lane]] + self::document();
        $ask = fn (array $more): array => $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => $document, 'size' => 256] + $more, 201);
        [$plain, $cut] = [$ask([]), $ask(['edges' => 'cut'])];
        $this->drain();
        self::assertFalse(self::at($this->show($plain), 'facts')['seamless']);
        self::assertStringContainsString('cannot tile, because Breakup (/lanes/0/steps/', self::text(self::at($this->show($plain), 'facts')['verdict']));
        self::assertTrue(self::at($this->show($cut), 'facts')['seamless']);
        self::assertStringContainsString('made seamless by a cut', self::text(self::at($this->show($cut), 'facts')['verdict']));
        self::assertIsFloat(self::at($this->show($cut), 'facts', 'wrap')['base-colour']);
        self::assertSame('/edges', self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => $document, 'size' => 4096, 'edges' => 'cut'], 422), 'problems', 0)['path']);
        self::assertSame('/edges', self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => $document, 'size' => 256, 'edges' => 'glue'], 422), 'problems', 0)['path']);
        self::assertSame('/longest', self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => $document, 'size' => 256, 'longest' => -1], 422), 'problems', 0)['path']);
    }

    public function testABakeThatKeepsFailingSaysWhy(): void
    {
        $bake = $this->ask(256);
        $this->service(Connection::class)->executeStatement("UPDATE bake SET document = '{}'");
        $this->drain();
        self::assertSame(3, $this->figure('SELECT MAX(attempts) FROM bake_region'), 'what may pass is tried again');
        $failed = $this->show($bake);
        self::assertSame('failed', $failed['state']);
        self::assertStringContainsString('/format', self::text($failed['failure']));
    }

    public function testSizesAreThoseOfTheCatalogue(): void
    {
        $this->importSet();
        $problem = $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 1000], 422);
        self::assertSame('/size', self::at($problem, 'problems', 0)['path']);
    }

    public function testFilesLieApartByBake(): void
    {
        $one = $this->ask(256);
        $two = $this->ask(256, false);
        $this->drain();
        self::assertNotSame(self::at($this->show($one), 'files', 0)['url'], self::at($this->show($two), 'files', 0)['url']);
    }

    /** A worker took what waits and was last heard of so many seconds ago. */
    private function take(string $queue, int $seconds): void
    {
        $this->service(Connection::class)->executeStatement('UPDATE queue SET delivered_at = UTC_TIMESTAMP() - INTERVAL ? SECOND WHERE queue_name = ?', [$seconds, $queue]);
    }

    private function figure(string $sql): int
    {
        $number = $this->service(Connection::class)->fetchOne($sql);

        return is_numeric($number) ? (int) $number : self::fail("$sql counts nothing.");
    }

    private function files(): string
    {
        return (string) getenv('RILTA_DATA') . '/bakes';
    }

    /** @return array<mixed> */
    private function ask(int $size, bool $import = true): array
    {
        if ($import) {
            $this->importSet();
            // What is derived of maps waits in front of bakes.
            $this->wait();
            $this->drain();
        }

        return $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => $size], 201);
    }

    /**
     * @param array<mixed> $bake
     *
     * @return array<mixed>
     */
    private function show(array $bake): array
    {
        return $this->api('GET', '/api/bakes/' . self::int($bake['id']));
    }

    public function testABakeIntoTheUvsOfAnObjectIsMadeBandByBandAndComesWithTheObject(): void
    {
        $this->importSet();
        $object = ['id' => 'stone', 'name' => 'Quay stone', 'mesh' => 'boulder', 'position' => [1, 2, 3], 'turn' => [0, 30, 0], 'scale' => [1, 2, 1], 'seed' => 7, 'value' => 0.5];
        $layout = $this->api('POST', '/api/projects/' . self::PROJECT . '/layout', ['onto' => ['object' => $object, 'set' => 2], 'size' => 256]);
        self::assertEqualsWithDelta([0.0, 0.0], [$layout['doubled'], $layout['mirrored']], 0.01);
        $bake = $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 256, 'onto' => ['object' => $object, 'set' => 2, 'places' => 4]], 201);
        self::assertSame('rock-on-quay-stone-256', $bake['name']);
        self::assertGreaterThan(3, self::at($bake, 'regions')['all']);
        $this->drain();
        $done = $this->show($bake);
        self::assertSame(['done', ''], [$done['state'], $done['failure']]);
        $told = self::at($done, 'facts', 'layout');
        self::assertEqualsWithDelta(self::at($layout, 'density')['median'], self::at($told, 'density')['median'], 1e-3);
        self::assertEqualsWithDelta($layout['covered'], $told['covered'], 0.03);
        $this->client->request('GET', self::text($done['archive']));
        $zip = tempnam(sys_get_temp_dir(), 'zip');
        self::assertIsString($zip);
        file_put_contents($zip, $this->client->getInternalResponse()->getContent());
        $archive = new \ZipArchive();
        self::assertTrue($archive->open($zip));
        self::assertStringStartsWith('glTF', (string) $archive->getFromName('rock-on-quay-stone-256.glb'));
        self::assertNotFalse($archive->getFromName('rock-on-quay-stone-256-normal.png'));
        $archive->close();
        unlink($zip);
        // Names are cut where they would be too long.
        $long = $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => ['name' => str_repeat('Rock ', 23), 'variants' => [['id' => $wordy = str_repeat('a', 80), 'name' => 'Wordy', 'values' => []]]] + self::document(), 'variant' => $wordy, 'size' => 256, 'onto' => ['object' => ['name' => str_repeat('Stone ', 19)] + $object, 'set' => 2]], 201);
        self::assertStringEndsWith('aaaa-on-stone-stone-stone-stone-256', self::text($long['name']));
        // Along the object's axes it is no glTF.
        $free = $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 256, 'onto' => ['object' => $object, 'set' => 2, 'normals' => 'object']], 201);
        self::assertSame('rock-on-quay-stone-256-2', $free['name']);
        foreach ([[['object' => $object, 'set' => 9], ['/onto/set']], [['object' => ['mesh' => 'none'] + $object], ['/onto/object/mesh']], [['object' => ['mesh' => 'floor'] + $object], ['/onto/set']], [['object' => $object, 'set' => 2, 'section' => 'none'], ['/onto/set']]] as [$onto, $paths]) {
            self::assertSame($paths, array_column(self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 256, 'onto' => $onto], 422), 'problems'), 'path'));
        }
    }

    public function testAMeshThatChangesMeanwhileIsNotBakedHalf(): void
    {
        $this->importSet();
        $mesh = $this->ownMesh('post.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nf 1/1 2/2 3/3\n");
        $object = ['id' => 'post', 'name' => 'Post', 'mesh' => $mesh, 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'seed' => 1, 'value' => 0];
        $bake = $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 256, 'onto' => ['object' => $object]], 201);
        $this->bring(['post.obj' => "v 0 0 0\nv 2 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nf 1/1 2/2 3/3\n"], $mesh);
        for ($i = 0; $i < 4; ++$i) {
            $this->wait();
            $this->drain();
        }
        $failed = $this->show($bake);
        self::assertSame(['failed', 'A map, the mesh or what is painted on it was changed while this was being baked. Bake it again.'], [$failed['state'], $failed['failure']]);
    }

    public function testSeveralObjectsAreBakedIntoOneFileWithWhatTheyWear(): void
    {
        $this->importSet();
        $other = self::int($this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['name' => 'Other', 'set' => 'rock'], 201)['id']);
        $document = ['variants' => [['id' => 'dark', 'name' => 'Dark', 'values' => []], ['id' => 'wet', 'name' => 'Wet', 'values' => []]]] + self::document();
        $object = ['id' => 'a', 'name' => 'Quay stone', 'mesh' => 'boulder', 'position' => [0, 1, 0], 'turn' => [0, 30, 0], 'scale' => [1, 1, 1], 'seed' => 1, 'value' => 0];
        $sections = ['sections' => [['section' => 'Top', 'wears' => $other]]];
        $onto = ['objects' => [$object, ['id' => 'b', 'name' => 'Block', 'mesh' => 'cube'] + $sections + $object], 'set' => 2, 'places' => 1, 'variants' => ['dark', 'wet']];
        $bake = $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => $document, 'size' => 64, 'onto' => $onto], 201);
        self::assertSame('rock-stage-64', $bake['name']);
        // A worker dies between two of its parts; another goes on.
        $this->wait();
        $this->drain();
        $done = $this->show($bake);
        self::assertSame(['done', '', []], [$done['state'], $done['failure'], $done['files']]);
        $facts = self::at($done, 'facts');
        self::assertSame([2, ['Dark', 'Wet'], []], [$facts['objects'], $facts['variants'], $facts['doubled']]);
        $glb = $this->zipped(self::text($done['archive']), 'rock-stage-64.glb');
        self::assertSame($facts['bytes'], \strlen($glb));
        $read = self::at(['json' => json_decode(substr($glb, 20, \ord($glb[12]) + 256 * \ord($glb[13]) + 65536 * \ord($glb[14])), true)], 'json');
        self::assertSame(['Quay stone', 'Block'], array_column(self::at($read, 'nodes'), 'name'));
        // The stone in three ways; five sections of the block in three, the sixth as the other material is.
        self::assertSame(3 + 5 * 3 + 1, $facts['parts']);
        self::assertContains('Other', array_column(self::at($read, 'materials'), 'name'));
        foreach ([
            [['objects' => [['mesh' => 'floor'] + $object]], ['/onto/set']], [['objects' => []], ['/onto/objects']], [['objects' => [$object], 'variants' => ['dark', 'gone']], ['/onto/variants/1']],
        ] as [$wrong, $paths]) {
            self::assertSame($paths, array_column(self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => $document, 'size' => 64, 'onto' => $wrong], 422), 'problems'), 'path'));
        }
        self::assertSame('/size', self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => $document, 'size' => 8192, 'onto' => $onto], 422), 'problems', 0)['path']);
    }

    public function testPicturesAreWrittenAsTheyAreAskedFor(): void
    {
        $this->importSet();
        $this->wait();
        $this->drain();
        $made = [];
        foreach ([['files' => 'png'], ['files' => 'png', 'green' => '-y'], ['files' => 'ktx2'], ['files' => 'tga', 'green' => '-y']] as $how) {
            $bake = $this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 64] + $how, 201);
            $this->drain();
            $file = array_values(array_filter(self::at($this->show($bake), 'files'), static fn (mixed $one): bool => \is_array($one) && $one['channel'] === 'normal'))[0] ?? [];
            self::assertIsArray($file);
            $fetched = [];
            foreach (['url', 'picture'] as $which) {
                $this->client->request('GET', self::text($file[$which] ?? null));
                self::assertSame(200, $this->client->getResponse()->getStatusCode());
                $fetched[] = (string) $this->client->getInternalResponse()->getContent();
            }
            self::assertSame($fetched[0], $this->zipped(self::text($this->show($bake)['archive']), self::text($file['name'] ?? null)));
            $made[] = [...$fetched, self::text($file['name'] ?? null)];
        }
        self::assertSame(['rock-64-normal.png', 'rock-64-2-normal-green-down.png', 'rock-64-3-normal.ktx2', 'rock-64-4-normal.tga'], array_column($made, 2));
        // What is looked at is always the same.
        self::assertCount(1, array_unique(array_column($made, 1)));
        $pixels = static function (string $png): array {
            return array_map(static fn (int $texel): array => [$texel & 255, $texel >> 8 & 255, $texel >> 16 & 255], ImageFile::fromBytes($png, 'normal.png')->decode()->texels);
        };
        $up = $pixels($made[0][0]);
        self::assertSame($up, $pixels($made[0][1]));
        self::assertSame(array_map(static fn (array $p): array => [$p[0], 255 - $p[1], $p[2]], $up), $pixels($made[1][0]));
        self::assertStringStartsWith("\xABKTX 20\xBB", $made[2][0]);
        // TGA: blue, green, red, after 18 bytes and how many are alike.
        self::assertSame([$up[0][2], 255 - $up[0][1], $up[0][0]], array_map(ord(...), str_split(substr($made[3][0], 19, 3))));
        self::assertSame('/files', self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 8192, 'files' => 'ktx2'], 422), 'problems', 0)['path']);
    }

    private function zipped(string $url, string $name): string
    {
        $this->client->request('GET', $url);
        $zip = tempnam(sys_get_temp_dir(), 'zip');
        self::assertIsString($zip);
        file_put_contents($zip, $this->client->getInternalResponse()->getContent());
        $archive = new \ZipArchive();
        self::assertTrue($archive->open($zip));
        $bytes = (string) $archive->getFromName($name);
        $archive->close();
        unlink($zip);

        return $bytes;
    }
}
