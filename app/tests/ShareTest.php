<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Project;
use Rilta\App\Service\Gate;
use Rilta\App\Service\Quota;
use Rilta\App\Service\Reason;
use Rilta\App\Service\Refusal;

/** Nobody takes all of the disk, the memory or the workers; what is packed and taken out of libraries. */
final class ShareTest extends ApiTestCase
{
    private const URL = '/api/projects/' . self::PROJECT;

    public function testAPackedMapHasANameAndChannelsOfAnySetAndComesBackFromTheBin(): void
    {
        $set = $this->importSet();
        $other = $this->importSet('sand');
        $one = static fn (mixed $map): array => ['map' => $map, 'channel' => 'x', 'inverted' => false, 'low' => 0, 'high' => 1];
        [$mine, $theirs] = [self::at($set, 'maps', 2)['id'], self::at($other, 'maps', 3)['id']];
        $url = '/api/sets/' . self::int($set['id']) . '/pack';
        $packed = $this->api('POST', $url, ['name' => 'Masks of both', 'channels' => [$one($mine), $one($theirs), ['low' => 0]]], 201);
        self::assertSame('rock/masks-of-both', self::at($packed, 'maps', 4)['name']);
        self::assertSame([['role' => 'roughness', 'channels' => 'x', 'inverted' => false], ['role' => 'occlusion', 'channels' => 'y', 'inverted' => false]], self::at($packed, 'maps', 4)['channels']);
        self::assertSame('/name', self::at($this->api('POST', $url, ['name' => 'masks-of-both', 'channels' => [$one($mine), $one($theirs), ['low' => 0]]], 422), 'problems', 0)['path']);
        $id = self::int(self::at($packed, 'maps', 4)['id']);
        self::assertSame([], $this->api('GET', self::URL . '/bin'));
        $this->api('DELETE', "/api/maps/$id", null, 204);
        self::assertSame(['rock/masks-of-both'], array_column($this->api('GET', self::URL . '/bin'), 'name'));
        self::assertCount(5, self::at($this->api('POST', "/api/maps/$id/bring-back", []), 'maps'));
        self::assertSame([], $this->api('GET', self::URL . '/bin'));
    }

    public function testAProjectHasAShareOfTheDiskAndOfTheWorkers(): void
    {
        $this->importSet();
        $quota = self::at($this->api('GET', self::URL), 'quota');
        self::assertSame([0, 20480 * 1048576], [$quota['waiting'], $quota['mostBytes']]);
        self::assertGreaterThan(200, self::int($quota['bytes']));
        $small = new Quota($this->service(Connection::class), 0, 1);
        $project = $this->service(EntityManagerInterface::class)->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]) ?? self::fail('No project.');
        self::assertSame([Reason::TooLarge, 'Quay has 0 of its 0 MiB of images, meshes, contact sheets and deliveries; 1.0 more do not fit. Delete what nothing uses, or ask for more room.'], self::refusal(static fn () => $small->room($project, 1048576)));
        $this->api('POST', self::URL . '/bakes', ['document' => self::document(), 'size' => 256], 201);
        self::assertSame([Reason::TooMuch, '1 bakes and deliveries of Quay are waiting already, and at most 1 may; cancel some, or ask again when some are done.'], self::refusal(static fn () => $small->queue($project)));
    }

    public function testSmallBakesGoFirst(): void
    {
        $this->importSet();
        // What the maps wait for is worked off: on a slow machine its moment comes in between.
        $this->wait();
        $this->drain();
        $ask = fn (int $size): int => self::int($this->api('POST', self::URL . '/bakes', ['document' => self::document(), 'size' => $size], 201)['id']);
        [$large, $small] = [$ask(1024), $ask(256)];
        $state = fn (int $id): mixed => $this->api('GET', "/api/bakes/$id")['state'];
        $this->work('--limit', 2);
        self::assertSame(['waiting', 'done'], [$state($large), $state($small)]);
    }

    public function testFewLargeImagesAreReadAtATime(): void
    {
        $gate = $this->service(Gate::class);
        $large = 16_000_000;
        $gate->through($large, static fn (): null => $gate->through($large, static function () use ($gate, $large): null {
            self::assertSame(Reason::Busy, self::refusal(static fn (): string => $gate->through($large, static fn (): string => 'a third one'))[0]);
            self::assertSame('small ones go by', $gate->through(1_000_000, static fn (): string => 'small ones go by'));

            return null;
        }));
        self::assertSame('again', $gate->through($large, static fn (): string => 'again'));
    }

    /**
     * @param \Closure(): mixed $do
     *
     * @return array{Reason, string}
     */
    private static function refusal(\Closure $do): array
    {
        try {
            $do();
        } catch (Refusal $e) {
            return [$e->reason, $e->getMessage()];
        }
        self::fail('Nothing was refused.');
    }
}
