<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\Png;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Format\ZipFile;

final class ZipFileTest extends TestCase
{
    private string $path;

    protected function setUp(): void
    {
        $this->path = sys_get_temp_dir() . '/rilta-zip-' . getmypid() . '.zip';
    }

    protected function tearDown(): void
    {
        @unlink($this->path);
    }

    public function testMembersComeWithTheirNamesAndBytes(): void
    {
        $png = Png::bytes(2, 1, 3, "\1\2\3\4\5\6");
        $this->zip(['rock/2k/rock_albedo.png' => $png, 'rock/readme.txt' => 'Hello', 'rock/.DS_Store' => 'x', '__MACOSX/rock/._rock_albedo.png' => 'x', 'Thumbs.db' => 'x', 'rock/empty/' => null]);
        self::assertTrue(ZipFile::isOne($this->path));
        self::assertSame([['rock_albedo.png', $png], ['readme.txt', 'Hello']], $this->read());
    }

    public function testNamesThatLeadOutOfTheArchiveAreRefusedAndTheRestIsRead(): void
    {
        $this->zip(['../../etc/rock.png' => 'x', '/etc/slate.png' => 'x', 'C:\\maps\\lime.png' => 'x', 'fine..png' => 'y']);
        self::assertSame([
            ['rock.png', '../../etc/rock.png is refused: its name leads out of the archive.'],
            ['slate.png', '/etc/slate.png is refused: its name leads out of the archive.'],
            ['lime.png', 'C:\maps\lime.png is refused: its name leads out of the archive.'],
            ['fine..png', 'y'],
        ], $this->read());
    }

    public function testAnArchiveThatUnpacksWithoutEndIsStopped(): void
    {
        $this->zip(['bomb.png' => str_repeat("\0", 65 * 1024 * 1024), 'rock.png' => 'x']);
        self::assertLessThan(100_000, filesize($this->path));
        self::assertSame([['bomb.png', 'bomb.png has 65.0 MiB; a map may have 64 MiB.'], ['rock.png', 'x']], $this->read());
    }

    public function testAClaimOfALittleIsNotBelieved(): void
    {
        $this->zip(['rock.png' => str_repeat('abc', 50_000)]);
        $bytes = (string) file_get_contents($this->path);
        // The size stands in the local head and in the directory.
        file_put_contents($this->path, str_replace(pack('V', 150_000), pack('V', 12), $bytes));
        try {
            $found = $this->read();
            self::assertStringContainsString('rock.png', $found[0][1]);
            self::assertStringContainsString('refused', $found[0][1]);
        } catch (UnreadableMap $e) {
            self::assertStringContainsString('set.zip is refused: it is damaged', $e->getMessage());
        }
    }

    public function testLockedFilesAreRefused(): void
    {
        $zip = new \ZipArchive();
        $zip->open($this->path, \ZipArchive::CREATE | \ZipArchive::OVERWRITE);
        $zip->addFromString('rock.png', 'secret');
        $zip->setEncryptionName('rock.png', \ZipArchive::EM_AES_256, 'word');
        $zip->close();
        self::assertSame([['rock.png', 'rock.png is refused: it is locked with a password.']], $this->read());
    }

    public function testTooManyFilesAreRefusedWhole(): void
    {
        $this->zip(array_fill_keys(array_map(static fn (int $i): string => "rock-$i.png", range(1, ZipFile::MOST_MEMBERS + 1)), 'x'));
        $this->expectException(UnreadableMap::class);
        $this->expectExceptionMessage('set.zip is refused: it has 501 files; an archive may have 500.');
        $this->read();
    }

    public function testMutatedArchivesAreReadOrRefused(): void
    {
        $this->zip(['rock.png' => Png::bytes(8, 8, 3, random_bytes(192)), 'a/slate.png' => Png::bytes(8, 8, 1, random_bytes(64))]);
        $whole = (string) file_get_contents($this->path);
        mt_srand(5);
        $refused = 0;
        for ($i = 0; $i < 200; ++$i) {
            $bytes = $i % 4 === 0 ? substr($whole, 0, mt_rand(0, \strlen($whole))) : $whole;
            for ($k = mt_rand(1, 4); $k > 0 && $bytes !== ''; --$k) {
                $bytes = substr_replace($bytes, \chr(mt_rand(0, 255)), mt_rand(0, \strlen($bytes) - 1), 1);
            }
            file_put_contents($this->path, $bytes);
            try {
                foreach ($this->read() as [$name, $content]) {
                    self::assertStringNotContainsString('/', $name);
                    $refused += str_contains($content, 'refused') ? 1 : 0;
                }
            } catch (UnreadableMap) {
                ++$refused;
            }
        }
        self::assertGreaterThan(60, $refused);
    }

    /** @return list<array{string, string}> names, and bytes or why not */
    private function read(): array
    {
        $found = [];
        foreach (ZipFile::members($this->path, 'set.zip') as [$name, $bytes]) {
            $found[] = [$name, \is_string($bytes) ? $bytes : $bytes->getMessage()];
        }

        return $found;
    }

    /** @param array<string, string|null> $members null for a folder */
    private function zip(array $members): void
    {
        $zip = new \ZipArchive();
        $zip->open($this->path, \ZipArchive::CREATE | \ZipArchive::OVERWRITE);
        foreach ($members as $name => $bytes) {
            $bytes === null ? $zip->addEmptyDir($name) : $zip->addFromString($name, $bytes);
        }
        $zip->close();
    }
}
