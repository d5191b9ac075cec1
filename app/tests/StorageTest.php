<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Doctrine\DBAL\DriverManager;
use Rilta\App\Service\Blobs;
use Rilta\App\Service\Collection;
use Rilta\App\Service\SharedLock;
use Rilta\App\Service\StorageFailure;
use Rilta\App\Service\WholeFile;

/** What is stored is there whole, or is told to be missing by its name; what belongs to nothing goes. */
final class StorageTest extends ApiTestCase
{
    public function testWhatIsDamagedIsToldByTheMapsNameAndHealedByImportingItAgain(): void
    {
        $this->importSet();
        $set = self::at($this->api('GET', '/api/projects/' . self::PROJECT), 'sets', 0);
        $map = self::at($set, 'maps', 0);
        $id = self::int($map['id']);
        $this->client->request('GET', "/api/maps/$id/file");
        $bytes = (string) $this->client->getInternalResponse()->getContent();
        $path = $this->blob($bytes);
        foreach ([substr($bytes, 0, 30), '', strrev($bytes)] as $torso) {
            file_put_contents($path, $torso);
            $problem = $this->api('GET', "/api/maps/$id/file", null, 422);
            self::assertStringContainsString('The file of rock/base-colour is damaged', self::text($problem['detail']));
            self::assertStringNotContainsString('/files/', self::text($problem['detail']));
            $this->service(Blobs::class)->put($bytes);
            self::assertSame($bytes, file_get_contents($path));
        }
        unlink($path);
        self::assertStringContainsString('The file of rock/base-colour is no longer there', self::text($this->api('GET', "/api/maps/$id/file", null, 422)['detail']));
        $this->service(Blobs::class)->put($bytes);
        $this->client->request('GET', "/api/maps/$id/file");
        self::assertSame(200, $this->client->getResponse()->getStatusCode());
    }

    public function testAFileIsThereWholeOrNotAtAll(): void
    {
        $folder = $this->data() . '/whole';
        WholeFile::write("$folder/a", 'before');
        WholeFile::write("$folder/a", 'after');
        self::assertSame('after', file_get_contents("$folder/a"));
        self::assertSame(["$folder/a"], glob("$folder/*"), 'nothing is left beside it');
        // A disk that takes nothing.
        foreach (['/dev/full/x', '/proc/self/x'] as $nowhere) {
            try {
                WholeFile::write($nowhere, 'text');
                self::fail($nowhere);
            } catch (StorageFailure $e) {
                self::assertStringContainsString('the disk is full, or cannot be written', $e->getMessage());
                self::assertStringNotContainsString($nowhere, $e->getMessage());
            }
        }
    }

    /** What lay there for long because of something that is gone, and is brought again, is as new: the collection leaves it until it has a name. */
    public function testWhatIsBroughtAgainIsNotTakenAwayBeforeItHasAName(): void
    {
        $blobs = $this->service(Blobs::class);
        $sha = $blobs->put('brought twice');
        $path = $this->data() . "/files/blobs/{$sha[0]}{$sha[1]}/$sha";
        touch($path, time() - 3 * 86400);
        $blobs->put('brought twice');
        $this->service(Collection::class)->collect();
        self::assertTrue($blobs->has($sha));
        touch($path, time() - 3 * 86400);
        $this->service(Collection::class)->collect();
        self::assertFalse($blobs->has($sha));
    }

    public function testWhatBelongsToNothingGoesAfterADay(): void
    {
        $this->importSet();
        $orphan = $this->service(Blobs::class)->put('nobody keeps this ' . random_bytes(8));
        $half = $this->data() . '/files/blobs/ab/' . str_repeat('ab', 32) . '.0123456789ab' . WholeFile::UNFINISHED;
        @mkdir(\dirname($half), 0o770, true);
        file_put_contents($half, 'half');
        $rows = $this->data() . '/bakes/999999999/base-colour.000000.rows';
        @mkdir(\dirname($rows), 0o770, true);
        file_put_contents($rows, 'rows');
        $image = \dirname($rows) . '/base-colour.png';
        file_put_contents($image, 'image');
        // What a bake that waits has computed stays.
        $waits = self::int($this->api('POST', '/api/projects/' . self::PROJECT . '/bakes', ['document' => self::document(), 'size' => 64], 201)['id']);
        $begun = $this->data() . "/bakes/$waits/base-colour.000000.rows";
        @mkdir(\dirname($begun), 0o770, true);
        file_put_contents($begun, 'rows');
        $collection = $this->service(Collection::class);
        $collection->collect(false, new \DateTimeImmutable('-1 minute'));
        self::assertTrue($this->service(Blobs::class)->has($orphan), 'it may be kept yet');
        self::assertFileExists($half);
        $later = new \DateTimeImmutable('+25 hours');
        self::assertGreaterThan(0, $collection->collect(true, $later)['blobs']['files']);
        self::assertTrue($this->service(Blobs::class)->has($orphan), 'only told');
        $collection->collect(false, $later);
        self::assertFalse($this->service(Blobs::class)->has($orphan));
        self::assertFileDoesNotExist($half);
        self::assertFileDoesNotExist($rows);
        self::assertFileDoesNotExist($image);
        self::assertFileExists($begun);
        // Kernels that have not been used for long are printed anew when they are wanted.
        $kernel = $this->data() . '/kernels/' . str_repeat('ab', 16) . '.php';
        @mkdir(\dirname($kernel), 0o770, true);
        file_put_contents($kernel, '<?php return static fn (): int => 1;');
        $collection->collect(false, new \DateTimeImmutable('+13 days'));
        self::assertFileExists($kernel);
        $collection->collect(false, new \DateTimeImmutable('+15 days'));
        self::assertFileDoesNotExist($kernel);
        $set = self::at($this->api('GET', '/api/projects/' . self::PROJECT), 'sets', 0);
        $this->client->request('GET', '/api/maps/' . self::int(self::at($set, 'maps', 0)['id']) . '/file');
        self::assertSame(200, $this->client->getResponse()->getStatusCode(), 'what a map is stays');
    }

    private function blob(string $bytes): string
    {
        $sha = hash('sha256', $bytes);

        return $this->data() . '/files/blobs/' . substr($sha, 0, 2) . "/$sha";
    }

    public function testWhatIsToHappenOnceIsNotBegunWhileAnotherMachineIsAtIt(): void
    {
        $lock = $this->service(SharedLock::class);
        $other = DriverManager::getConnection($this->service(Connection::class)->getParams());
        $done = 0;
        $do = static function () use (&$done): void {
            ++$done;
        };
        self::assertTrue($lock->hold('a test', 0, $do));
        $other->fetchOne("SELECT GET_LOCK(CONCAT('rilta ', MD5(DATABASE()), 'a test'), 0)");
        self::assertFalse($lock->hold('a test', 0, $do));
        self::assertTrue($lock->hold('another test', 0, $do));
        // Whoever dies lets go.
        $other->close();
        self::assertTrue($lock->hold('a test', 5, $do));
        self::assertSame(3, $done);
    }
}
