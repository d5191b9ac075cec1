<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Project;
use Rilta\App\Service\Blobs;
use Rilta\App\Service\Collection;
use Rilta\App\Service\Ending;
use Rilta\App\Service\Parcels;
use Rilta\App\Service\Quota;

/** Materials that the interface hands over. */
final class DeliveriesTest extends ApiTestCase
{
    private const BASE = '/api/projects/' . self::PROJECT;
    private const OWN = ['format' => 'rilta-delivery/1', 'name' => 'quay', 'label' => 'Quay', 'help' => '', 'code' => ['c'], 'textures' => 'single', 'maps' => 'png', 'bake' => ['size' => 64, 'files' => 'ktx2-blocks', 'names' => 'q_{material}_{variant}_{role}']];

    public function testAProjectHasProfilesOfItsOwnBesideTheReadyMadeOnes(): void
    {
        $ready = ['images', 'renderer', 'tools', 'web'];
        self::assertSame($ready, self::names($this->api('GET', self::BASE . '/profiles')));
        self::assertSame([...$ready, 'quay'], self::names($this->profile()));
        $second = self::at($this->profile(['label' => 'Other']), 4);
        self::assertTrue($second['own']);
        self::assertSame('Other', self::at($second, 'profile')['label'], 'in place of that of the same name');
        $wrong = self::at($this->api('PUT', self::BASE . '/profiles', ['profile' => ['code' => ['c', 'fortran'], 'bake' => ['size' => 65]] + self::OWN], 422), 'problems');
        self::assertSame(['/code/1', '/bake/size'], array_column($wrong, 'path'));
        self::assertSame(['/name'], array_column(self::at($this->api('PUT', self::BASE . '/profiles', ['profile' => ['name' => 'web'] + self::OWN], 422), 'problems'), 'path'), 'ready-made ones stay as they are');
        self::assertSame($ready, self::names($this->api('DELETE', self::BASE . '/profiles/quay')));
        $this->api('DELETE', self::BASE . '/profiles/web', status: 404);
    }

    public function testADeliveryIsMadeByTheWorkersAndCanBeTakenWholeOrFileByFile(): void
    {
        $id = $this->material();
        $this->profile();
        [$asked] = $this->ask([$id]);
        self::assertSame(['waiting', 'rock-quay', null, []], [$asked['state'], $asked['name'], $asked['archive'], $asked['files']]);
        $this->api('GET', '/api/deliveries/' . self::int($asked['id']) . '/files.zip', status: 404);
        $this->drain();
        $done = $this->show($asked);
        self::assertSame(['done', '', false], [$done['state'], $done['failure'], $done['unchanged']]);
        self::assertSame($done['all'], $done['done']);
        $files = [];
        foreach (self::at($done, 'files') as $one) {
            $files[self::text(self::at($one)['path'])] = self::at($one);
        }
        self::assertSame(['code/rock.c', 'code/rock.c.json', 'document.json', 'manifest.json', 'maps/rock-base-colour.png', 'maps/rock-normal.png', 'maps/rock-occlusion.png', 'maps/rock-roughness.png', 'textures/q_rock_base-colour.ktx2', 'textures/q_rock_metallic.ktx2', 'textures/q_rock_normal.ktx2', 'textures/q_rock_occlusion.ktx2', 'textures/q_rock_roughness.ktx2'], self::sorted(array_keys($files)));
        // Blocks of 4 x 4 from 64 down to 1 pixel: 256 + 64 + 16 + 4 + 1 + 1 + 1; of 8 bytes for one value, of 16 for colours.
        $roughness = self::at($files['textures/q_rock_roughness.ktx2'], 'picture');
        self::assertSame(['width' => 64, 'height' => 64, 'layers' => 1, 'memory' => 343 * 8, 'shows' => 'roughness'], array_diff_key($roughness, ['off' => 0]));
        self::assertGreaterThanOrEqual(0, self::at($roughness, 'off')['mean']);
        self::assertEqualsCanonicalizing(['mean', 'within'], array_keys(self::at($roughness, 'off')));
        self::assertSame(343 * 16, self::at($files['textures/q_rock_base-colour.ktx2'], 'picture')['memory']);
        // 8 x 8, 4 x 4, 2 x 2, 1; three values take as much as four.
        self::assertSame(85 * 4, self::at($files['maps/rock-base-colour.png'], 'picture')['memory']);
        self::assertSame(85, self::at($files['maps/rock-roughness.png'], 'picture')['memory']);
        self::assertEquals([0, ''], [self::at($files['maps/rock-roughness.png'], 'picture', 'off')['mean'], self::at($files['maps/rock-roughness.png'], 'picture')['shows']]);
        self::assertArrayNotHasKey('picture', $files['code/rock.c']);
        // Each file is what the manifest says, alone and in the ZIP.
        $manifest = json_decode($this->bytes(self::text($files['manifest.json']['url'])), true);
        self::assertCount(12, self::at($manifest, 'files'));
        $zip = tempnam(sys_get_temp_dir(), 'zip');
        self::assertIsString($zip);
        file_put_contents($zip, $this->bytes(self::text($done['archive'])));
        $archive = new \ZipArchive();
        self::assertTrue($archive->open($zip));
        self::assertSame(13, $archive->numFiles);
        foreach (self::at($manifest, 'files') as $one) {
            $path = self::text(self::at($one)['path']);
            $bytes = $this->bytes(self::text($files[$path]['url']));
            self::assertSame([self::at($one)['sha256'], self::at($one)['bytes']], [hash('sha256', $bytes), \strlen($bytes)]);
            self::assertSame($bytes, $archive->getFromName("rock-quay/$path"));
        }
        $archive->close();
        unlink($zip);
        $this->api('GET', '/api/deliveries/' . self::int($asked['id']) . '/file?path=code/none.c', status: 404);
    }

    public function testWhatIsUnchangedIsNotMadeAgainAndWhatIsChangedIsANewOneBesideIt(): void
    {
        $id = $this->material();
        $this->profile();
        $first = $this->made($id);
        $same = $this->made($id);
        self::assertSame(['rock-quay', true, self::at($first, 'files')[0]], [$same['name'], $same['unchanged'], array_replace(self::at($same, 'files', 0), ['url' => self::at($first, 'files', 0)['url']])]);
        $material = $this->api('GET', "/api/materials/$id");
        $document = self::at($material, 'document');
        $document = array_replace_recursive($document, ['lanes' => [['steps' => [1 => ['values' => ['u' => 3.0]]]]]]);
        $this->api('PUT', "/api/materials/$id", ['document' => $document], headers: ['If-Match' => '"1"']);
        $second = $this->made($id);
        self::assertSame(['rock-quay-2', false], [$second['name'], $second['unchanged']]);
        self::assertSame(hash('sha256', $this->bytes(self::text(self::at($first, 'files', 0)['url']))), self::at($first, 'files', 0)['sha256'], 'what was before is still there');
        self::assertSame(['rock-quay-2', 'rock-quay', 'rock-quay'], array_column($this->api('GET', self::BASE . "/deliveries?material=$id"), 'name'), 'the latest first');
        // One whose files are gone is made again.
        $this->service(Connection::class)->executeStatement("UPDATE delivery SET files = REPLACE(files, ?, ?) WHERE name = 'rock-quay' AND number = 2", [self::text(self::at($second, 'files', 1)['sha256']), str_repeat('0', 64)]);
        self::assertSame(['rock-quay-3', false], [($third = $this->made($id))['name'], $third['unchanged']]);
        $this->client->request('DELETE', '/api/deliveries/' . self::int($third['id']), server: ['HTTP_X_RILTA' => '1']);
        self::assertSame(204, $this->client->getResponse()->getStatusCode());
        self::assertCount(3, $this->api('GET', self::BASE . '/deliveries'));
        // What somebody has approved is another one, and its manifest says by whom.
        $revision = self::at($this->api('GET', "/api/materials/$id/revisions"), 0);
        self::assertSame(2, $revision['version']);
        $this->api('PUT', '/api/revisions/' . self::int($revision['id']) . '/approval', ['approved' => true]);
        $approved = $this->made($id);
        self::assertSame([false, true], [$approved['unchanged'], $approved['approvedBy'] !== '']);
        $manifest = fn (mixed $delivery): mixed => self::at(json_decode($this->bytes(self::text(array_column(self::at($delivery, 'files'), 'url', 'path')['manifest.json'])), true))['approvedBy'] ?? null;
        self::assertSame([$approved['approvedBy'], null], [$manifest($approved), $manifest($second)]);
        self::assertTrue($this->made($id)['unchanged']);
    }

    public function testAllVariantsOfSeveralMaterials(): void
    {
        $this->importSet();
        $wet = ['parameters' => [['id' => 'size', 'name' => 'Size', 'kind' => 'number', 'value' => 2.0]], 'variants' => [['id' => 'wet', 'name' => 'Wet', 'values' => ['size' => 0.5]]]];
        $one = self::int($this->api('POST', self::BASE . '/materials', ['document' => $wet + self::document()], 201)['id']);
        $two = self::int($this->api('POST', self::BASE . '/materials', ['document' => self::document(name: 'Slab')], 201)['id']);
        $this->profile();
        self::assertSame(['rock-quay', 'rock-wet-quay', 'slab-quay'], array_column($this->ask([$one, $two], null), 'name'));
        // All or none: the second has no such variant.
        $refused = $this->api('POST', self::BASE . '/deliveries', ['materials' => [$one, $two], 'profile' => 'quay', 'variants' => ['wet']], 422);
        self::assertStringContainsString('Slab', self::text($refused['detail']));
        self::assertCount(3, $this->api('GET', self::BASE . '/deliveries'));
        $this->drain();
        self::assertSame(['done', 'done', 'done'], array_column($this->api('GET', self::BASE . '/deliveries'), 'state'));
        $wet = self::at($this->api('GET', self::BASE . '/deliveries'), 1);
        // Names may be as long as they may be.
        $long = self::int($this->api('POST', self::BASE . '/materials', ['document' => ['variants' => [['id' => str_repeat('a', 80), 'name' => 'Wordy', 'values' => []]]] + self::document(name: str_repeat('Rock ', 23))], 201)['id']);
        $this->profile(['name' => str_repeat('b', 40)]);
        self::assertCount(1, $this->ask([$long], [str_repeat('a', 80), str_repeat('a', 80)], str_repeat('b', 40)));
        self::assertContains('textures/q_rock_wet_roughness.ktx2', array_column(self::at($wet, 'files'), 'path'));
    }

    public function testWhatIsNotThereIsSaidWithItsPlace(): void
    {
        $id = $this->material();
        $said = fn (array $order): array => array_column(self::at($this->api('POST', self::BASE . '/deliveries', $order, 422), 'problems'), 'path');
        self::assertSame(['/profile'], $said(['materials' => [$id], 'profile' => 'none']));
        self::assertSame(['/materials/1'], $said(['materials' => [$id, 999999], 'profile' => 'web']));
        $this->api('POST', self::BASE . '/deliveries', ['materials' => [], 'profile' => 'web'], 422);
        $this->api('GET', self::BASE . '/deliveries?material=999999', status: 404);
        $this->api('GET', '/api/deliveries/999999', status: 404);
    }

    public function testItCanBeCancelledAndBegunAgain(): void
    {
        $id = $this->material();
        $this->profile();
        [$first, $second] = [...$this->ask([$id]), ...$this->ask([$id])];
        self::assertSame('cancelled', $this->api('POST', '/api/deliveries/' . self::int($first['id']) . '/cancel', [])['state']);
        $db = $this->service(Connection::class);
        $db->executeStatement('UPDATE delivery SET attempts = 12 WHERE id = ?', [self::int($second['id'])]);
        $this->drain();
        self::assertSame([], $this->show($first)['files']);
        $failed = $this->show($second);
        self::assertSame('failed', $failed['state']);
        self::assertStringContainsString('died again and again', self::text($failed['failure']));
        self::assertSame(['rock-quay'], array_column($this->api('GET', self::BASE . '/deliveries'), 'name'), 'cancelled ones are not listed');
        self::assertSame('waiting', $this->api('POST', '/api/deliveries/' . self::int($second['id']) . '/again', [])['state']);
        // A worker that is told to end puts it down for another.
        $this->service(Ending::class)->tell();
        $this->work();
        self::assertSame('waiting', $this->show($second)['state']);
        self::ensureKernelShutdown();
        $this->client = self::createClient();
        $this->wait();
        $this->drain();
        self::assertSame('done', $this->show($second)['state']);
    }

    public function testAProjectMayNotHaveTheWorkersForItself(): void
    {
        $id = $this->material();
        $most = $this->service(Quota::class)->of($this->quay())['mostWaiting'];
        for ($i = 0; $i < $most; ++$i) {
            $this->ask([$id], profile: 'renderer');
        }
        $this->api('POST', self::BASE . '/deliveries', ['materials' => [$id], 'profile' => 'renderer'], 429);
    }

    /** The collection leaves them alone as long as they are kept; the project's room counts each file once. */
    public function testItsFilesStayAndTakeRoom(): void
    {
        $id = $this->material();
        $this->profile();
        $before = $this->service(Quota::class)->of($this->quay())['bytes'];
        $made = $this->made($id);
        $this->made($id);
        $each = array_column(self::at($made, 'files'), 'bytes', 'sha256');
        // Maps that are handed over as they are lie there already.
        $room = $this->service(Quota::class)->of($this->quay())['bytes'] - $before;
        self::assertGreaterThan(0, $room);
        self::assertLessThanOrEqual(array_sum($each), $room);
        $this->service(Collection::class)->collect(now: new \DateTimeImmutable('+3 days'));
        foreach (array_keys($each) as $sha) {
            self::assertTrue($this->service(Blobs::class)->has((string) $sha));
        }
        $this->service(Connection::class)->executeStatement('DELETE FROM delivery');
        $this->service(Collection::class)->collect(now: new \DateTimeImmutable('+3 days'));
        self::assertSame($before, $this->service(Quota::class)->of($this->quay())['bytes']);
        self::assertFalse($this->service(Blobs::class)->has(self::text(self::at($made, 'files', 0)['sha256'])));
    }

    public function testWhatDoesNotFitIntoTheProjectsRoomFailsWithThatReason(): void
    {
        $id = $this->material();
        $this->profile();
        [$asked] = $this->ask([$id]);
        $most = $this->service(Quota::class)->of($this->quay())['mostBytes'];
        $this->service(Connection::class)->executeStatement("INSERT INTO contact_sheet (material_id, name, made, sha256, bytes, width, height) VALUES (?, 'Large', '2026-01-01', ?, ?, 1, 1)", [$id, hash('sha256', 'large'), min($most - 40, 2147483647)]);
        for ($i = 1; $i * 2147483647 < $most; ++$i) {
            $this->service(Connection::class)->executeStatement("INSERT INTO contact_sheet (material_id, name, made, sha256, bytes, width, height) VALUES (?, 'Large', '2026-01-01', ?, 2147483647, 1, 1)", [$id, hash('sha256', "large $i")]);
        }
        $this->drain();
        $failed = $this->show($asked);
        self::assertSame(['failed', []], [$failed['state'], $failed['files']]);
        self::assertStringContainsString('MiB of images, meshes, contact sheets and deliveries', self::text($failed['failure']));
    }

    public function testProfilesTravelWithTheirProject(): void
    {
        $this->profile();
        $parcel = $this->service(Parcels::class);
        $path = $parcel->pack($this->quay());
        $bytes = (string) file_get_contents($path);
        unlink($path);
        $twin = $parcel->unpack($bytes);
        self::assertNotSame(self::PROJECT, $twin->slug);
        self::assertEquals([self::OWN], $twin->profiles);
    }

    private function material(): int
    {
        $this->importSet();

        return self::int($this->api('POST', self::BASE . '/materials', ['document' => self::document()], 201)['id']);
    }

    /**
     * @param array<string, mixed> $change
     *
     * @return array<mixed>
     */
    private function profile(array $change = []): array
    {
        return $this->api('PUT', self::BASE . '/profiles', ['profile' => $change + self::OWN]);
    }

    /**
     * @param list<int>     $materials
     * @param ?list<string> $variants
     *
     * @return array<array<mixed>>
     */
    private function ask(array $materials, ?array $variants = [''], string $profile = 'quay'): array
    {
        return array_map(self::at(...), $this->api('POST', self::BASE . '/deliveries', ['materials' => $materials, 'profile' => $profile, 'variants' => $variants], 201));
    }

    /** @return array<mixed> */
    private function made(int $material): array
    {
        [$asked] = $this->ask([$material]);
        $this->drain();

        return $this->show($asked);
    }

    /**
     * @param array<mixed> $delivery
     *
     * @return array<mixed>
     */
    private function show(array $delivery): array
    {
        return $this->api('GET', '/api/deliveries/' . self::int($delivery['id']));
    }

    private function quay(): Project
    {
        return $this->service(EntityManagerInterface::class)->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]) ?? self::fail('There is a project.');
    }

    private function bytes(string $url): string
    {
        $this->client->request('GET', $url);
        $response = $this->client->getInternalResponse();
        self::assertSame(200, $response->getStatusCode());

        return $response->getContent();
    }

    /**
     * @param array<mixed> $profiles
     *
     * @return list<string>
     */
    private static function names(array $profiles): array
    {
        return array_map(static fn (mixed $one): string => self::text(self::at($one, 'profile')['name']), array_values($profiles));
    }

    /**
     * @param list<string> $list
     *
     * @return list<string>
     */
    private static function sorted(array $list): array
    {
        sort($list);

        return $list;
    }
}
