<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Bundle\FrameworkBundle\Test\KernelTestCase;
use Symfony\Component\Console\Tester\CommandTester;

/** Materials that are handed over as folders. */
final class DeliverTest extends KernelTestCase
{
    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir() . '/rilta-deliver-' . bin2hex(random_bytes(4));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        exec('rm -rf ' . escapeshellarg($this->folder));
        parent::tearDown();
    }

    public function testADeliveryIsWholeAndTellsWhatItIs(): void
    {
        self::assertSame([0, "$this->folder/lamp-glass-own: 16 files"], $this->deliver());
        $manifest = json_decode((string) file_get_contents("$this->folder/lamp-glass-own/manifest.json"), true);
        self::assertIsArray($manifest);
        self::assertSame(['rilta-manifest/1', 'Lamp glass', '', 'own'], [$manifest['format'], $manifest['material'], $manifest['variant'], $manifest['profile']]);
        self::assertIsArray($manifest['files']);
        self::assertCount(15, $manifest['files']);
        $there = explode("\n", trim((string) shell_exec('cd ' . escapeshellarg("$this->folder/lamp-glass-own") . ' && find . -type f | sort')));
        $told = ['./manifest.json'];
        foreach ($manifest['files'] as $file) {
            self::assertIsArray($file);
            self::assertIsString($file['path']);
            $told[] = "./{$file['path']}";
            self::assertSame([$file['sha256'], $file['bytes']], [hash_file('sha256', "$this->folder/lamp-glass-own/{$file['path']}"), filesize("$this->folder/lamp-glass-own/{$file['path']}")]);
        }
        self::assertSame('755', substr(decoct(fileperms("$this->folder/lamp-glass-own/code") & ~0o020), -3));
        sort($told);
        self::assertSame($told, $there);
    }

    public function testWhatIsUnchangedIsNotMadeAgainAndNothingIsOverwritten(): void
    {
        $this->deliver();
        self::assertSame([0, "$this->folder/lamp-glass-own: unchanged"], $this->deliver());
        $before = (string) shell_exec('cd ' . escapeshellarg($this->folder) . ' && find . -type f | sort | xargs sha256sum');
        // Whoever changes a delivery gets a new one beside it.
        file_put_contents("$this->folder/lamp-glass-own/document.json", 'x', \FILE_APPEND);
        self::assertSame([0, "$this->folder/lamp-glass-own-2: 16 files"], $this->deliver());
        self::assertSame([0, "$this->folder/lamp-glass-own-2: unchanged"], $this->deliver());
        self::assertSame($before, str_replace('-own-2/', '-own/', (string) shell_exec('cd ' . escapeshellarg($this->folder) . ' && find lamp-glass-own-2 -type f | sort | sed s,^,./, | xargs sha256sum')));
    }

    /** The example that lies in the repository is what is made today; what a delivery follows from is part of it, so make it again where a profile can say more. */
    public function testTheExampleIsMadeAgainByteByByte(): void
    {
        $there = \dirname(__DIR__, 2) . '/demo/deliveries';
        self::assertSame(0, $this->deliver(more: ['--delivery' => "$there/example.json"])[0]);
        self::assertSame('', shell_exec(\sprintf('diff -rq %s %s', escapeshellarg("$there/lamp-glass-example"), escapeshellarg("$this->folder/lamp-glass-example"))) ?? '');
    }

    public function testADeliveryIsOneFileAsWellOfTheSameBytesWheneverItIsMade(): void
    {
        $zip = "$this->folder/lamp-glass-own.zip";
        self::assertSame([0, "$this->folder/lamp-glass-own: 16 files\n$zip: "], [($made = $this->deliver(more: ['--zip' => true]))[0], preg_replace('/[\d.]+ MiB/', '', $made[1])]);
        $bytes = (string) file_get_contents($zip);
        self::assertSame('', shell_exec('cd ' . escapeshellarg($this->folder) . ' && mkdir out && unzip -q lamp-glass-own.zip -d out && diff -r lamp-glass-own out/lamp-glass-own') ?? '');
        unlink($zip);
        touch("$this->folder/lamp-glass-own/manifest.json", 1700000000);
        putenv('TZ=Pacific/Auckland');
        self::assertStringStartsWith("$this->folder/lamp-glass-own: unchanged\n$zip", $this->deliver(more: ['--zip' => true])[1]);
        self::assertSame('Pacific/Auckland', getenv('TZ'));
        putenv('TZ');
        self::assertSame(hash('sha256', $bytes), hash_file('sha256', $zip));
        // Another file of that name is not overwritten.
        file_put_contents($zip, 'mine');
        [$code, $text] = $this->deliver(more: ['--zip' => true]);
        self::assertSame([1, 'mine'], [$code, file_get_contents($zip)]);
        self::assertStringContainsString('lamp-glass-own.zip is another file', $text);
        self::assertSame([], glob("$this->folder/.unfinished*"));
    }

    public function testTwoOfOneNameAreNotMixedUp(): void
    {
        $this->deliver();
        $document = json_decode((string) file_get_contents(self::demo('lamp-glass')), true);
        self::assertIsArray($document);
        file_put_contents("$this->folder/other.json", json_encode(['name' => 'LAMP  glass'] + $document, \JSON_PRESERVE_ZERO_FRACTION));
        [$code, $text] = $this->deliver("$this->folder/other.json", ['--maps' => \dirname(__DIR__, 2) . '/demo/maps']);
        self::assertSame(1, $code);
        self::assertStringContainsString('lamp-glass-own is a delivery of something else', $text);
        self::assertFileDoesNotExist("$this->folder/lamp-glass-own-2");
    }

    public function testWhatCannotBeWrittenLeavesNothing(): void
    {
        file_put_contents("$this->folder/taken", '');
        [$code, $text] = $this->deliver(out: "$this->folder/taken");
        self::assertSame(1, $code);
        self::assertStringContainsString('taken cannot be written to', $text);
        self::assertSame(['taken'], array_values(array_diff(scandir($this->folder) ?: [], ['.', '..', 'own.json'])));
    }

    public function testWhatWasLeftByAKilledDeliveryIsTakenAway(): void
    {
        mkdir("$this->folder/.unfinished-0123/code", 0o775, true);
        file_put_contents("$this->folder/.unfinished-0123/code/a.hlsl", 'half');
        // Somebody is at this one.
        mkdir("$this->folder/.unfinished-4567");
        $theirs = fopen("$this->folder/.unfinished-4567/.lock", 'c');
        self::assertIsResource($theirs);
        flock($theirs, \LOCK_EX);
        $this->deliver();
        self::assertDirectoryDoesNotExist("$this->folder/.unfinished-0123");
        self::assertDirectoryExists("$this->folder/.unfinished-4567");
    }

    public function testAProfileThatIsNoneIsSaid(): void
    {
        [$code, $text] = $this->deliver(more: ['--delivery' => 'none']);
        self::assertSame([1, true], [$code, str_contains($text, 'there is no file and no profile "none"; there are images, renderer, tools, web.')]);
        file_put_contents("$this->folder/own.json", '{"format":"rilta-delivery/1","name":"own","label":"Own","code":["basic"]}');
        [$code, $text] = $this->deliver(more: ['--delivery' => "$this->folder/own.json"]);
        self::assertSame(1, $code);
        self::assertStringContainsString('own.json /code/0: expected one of glsl', $text);
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array{int, string} its code, and what it says without sizes
     */
    private function deliver(?string $file = null, array $more = [], ?string $out = null): array
    {
        if (!isset($more['--delivery'])) {
            file_put_contents("$this->folder/own.json", '{"format":"rilta-delivery/1","name":"own","label":"Own","code":["hlsl"],"textures":"single","maps":"ktx2","bake":{"size":64}}');
        }
        $tester = new CommandTester((new Application(self::bootKernel()))->find('deliver'));
        $code = $tester->execute(['file' => [$file ?? self::demo('lamp-glass')], '--out' => $out ?? $this->folder] + $more + ['--delivery' => "$this->folder/own.json"]);
        if (!isset($more['--delivery'])) {
            unlink("$this->folder/own.json");
        }

        return [$code, trim((string) preg_replace('/, [\d.]+ MiB/', '', $tester->getDisplay()))];
    }

    private static function demo(string $name): string
    {
        return \dirname(__DIR__, 2) . "/demo/materials/$name.json";
    }
}
