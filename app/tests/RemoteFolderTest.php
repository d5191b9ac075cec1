<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\ORM\EntityManagerInterface;
use Doctrine\Persistence\ManagerRegistry;
use Rilta\App\Command\CheckoutCommand;
use Rilta\App\Command\CommitCommand;
use Rilta\App\Remote\RemoteTexts;
use Symfony\Component\Console\Tester\CommandTester;

/** The same with a project of another server: all that holds here holds there. */
final class RemoteFolderTest extends FolderTest
{
    use RemoteServers;

    public function testItIsByteByByteWhatItIsHere(): void
    {
        parent::ran('checkout', ['project' => self::PROJECT, 'folder' => "$this->folder-2"]);
        $this->checkout();
        $all = static fn (string $folder): string => (string) shell_exec('cd ' . escapeshellarg($folder) . ' && find . -type f | sort | xargs sha256sum');
        self::assertSame($all("$this->folder-2"), $all($this->folder));
        self::assertGreaterThan(12, substr_count($all($this->folder), "\n"));
        // Files of other projects are nobody's.
        self::assertSame(404, $this->sent('POST', self::URL . '/folder/files', ['files' => [str_repeat('0', 64)]]));
    }

    public function testAProjectThatCannotBeMadeOfAFolderIsSaidToBeEmpty(): void
    {
        $this->checkout();
        [$file] = $this->files('materials');
        $this->change($file, '/"opacity": \d+/', '"opacity": 4000');
        [$status, $told] = $this->commit(['--as' => 'Another quay']);
        self::assertSame(1, $status);
        self::assertStringStartsWith("The folder has mistakes. /another-quay was made on the server, and is empty.\n  $file/layers/0/opacity: ", $told);
    }

    public function testWhoComesSecondMergesWhatTheFirstOneDid(): void
    {
        $this->checkout();
        [$file] = $this->files('materials');
        $this->change($file, '/"opacity": \d+/', '"opacity": 40');
        $this->before = function (string $method, string $path): void {
            if ($method === 'PUT') {
                $this->before = null;
                $this->save([], 'Renamed right then');
            }
        };
        [$status, $told] = $this->commit();
        self::assertSame([0, "  $file/layers/ground/opacity: 100 → 40\n1 change stored in Quay."], [$status, $told]);
        self::assertSame(['Renamed right then', 40, 3], [$this->stored()['name'], self::at($this->stored(), 'document', 'layers', 0)['opacity'], $this->stored()['version']]);
        self::assertStringContainsString('Renamed right then', $this->written($file));
        self::assertSame(2, \count(array_filter($this->asked, static fn (string $one): bool => $one === 'PUT ' . self::URL . '/folder')));
    }

    public function testImagesThatTheServerLacksAreBroughtAndThoseThatItHasAreNot(): void
    {
        $this->checkout();
        $png = file_get_contents("$this->folder/" . $this->files('files', '')[0]) . 'of another kind';
        $sha = hash('sha256', $png);
        // What is no image is refused where it is read; it has to get there for that.
        file_put_contents("$this->folder/files/$sha.png", $png);
        $this->change('sets/rock.json', '/"image": "[0-9a-f]{64}"/', "\"image\": \"$sha\"");
        $this->commit();
        self::assertSame(['PUT ' . self::URL . "/folder/files/$sha"], array_values(array_filter($this->asked, static fn (string $one): bool => str_contains($one, '/folder/files/'))));
        self::assertSame(400, $this->sent('PUT', self::URL . '/folder/files/' . strrev($sha), $png));
    }

    public function testAFolderMayChangeMoreAtOnceThanAPage(): void
    {
        $large = static fn (int $mebibytes): string => json_encode(['state' => str_repeat('0', 64), 'changes' => ['project' => ['about' => str_repeat('a', $mebibytes << 20)]]], \JSON_THROW_ON_ERROR);
        $status = function (string $url, string $body): int {
            $this->client->request('PUT', $url, server: ['CONTENT_TYPE' => 'application/json'], content: $body);

            return $this->client->getResponse()->getStatusCode();
        };
        // What it says is out of date, and that is all that is wrong with it.
        self::assertSame([409, 413], [$status(self::URL . '/folder', $large(6)), $status(self::URL . '/folder', $large(33))]);
        self::assertSame(413, $status(self::URL . '/stage', $large(6)));
    }

    public function testAWordThatNoProjectHasIsRefused(): void
    {
        $state = self::text($this->api('POST', self::URL . '/folder', [])['state']);
        $problem = $this->api('PUT', self::URL . '/folder', ['state' => $state, 'changes' => ['materails' => ['a' => null]]], 422);
        self::assertSame('/changes/materails', self::at($problem, 'problems', 0)['path']);
        self::assertSame('/known', self::at($this->api('POST', self::URL . '/folder', ['known' => 3], 422), 'problems', 0)['path']);
        $this->api('PUT', self::URL . '/folder', ['state' => str_repeat('0', 64), 'changes' => []], 409);
    }

    protected function ran(string $command, array $input): array
    {
        $texts = new RemoteTexts($this->remote());
        $entities = $this->service(EntityManagerInterface::class);
        $tester = new CommandTester($command === 'checkout' ? new CheckoutCommand($entities, $texts) : new CommitCommand($entities, $texts));
        $status = $tester->execute($input);
        $status === 0 || $this->service(ManagerRegistry::class)->resetManager();

        return [$status, trim($tester->getDisplay(true), "\n")];
    }

    /** @param array<string, mixed>|string $body */
    private function sent(string $method, string $url, array|string $body): int
    {
        $this->client->request($method, $url, server: ['CONTENT_TYPE' => \is_string($body) ? 'application/octet-stream' : 'application/json', 'HTTP_X_RILTA' => '1'], content: \is_string($body) ? $body : json_encode($body, \JSON_THROW_ON_ERROR));

        return $this->client->getResponse()->getStatusCode();
    }
}
