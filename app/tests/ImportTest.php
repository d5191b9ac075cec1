<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\Png;
use Rilta\Core\Raster\Image;
use Symfony\Component\HttpFoundation\File\UploadedFile;

final class ImportTest extends ApiTestCase
{
    public function testASetIsRecognisedKeptAndListed(): void
    {
        $set = $this->importSet('lime_plaster');
        self::assertSame('lime-plaster', $set['name']);
        $maps = self::at($set, 'maps');
        self::assertSame(['base-colour', 'normal', 'roughness', 'occlusion'], array_column($maps, 'role'));
        self::assertSame(['colour', 'data', 'data', 'data'], array_column($maps, 'encoding'));
        $project = $this->api('GET', '/api/projects/' . self::PROJECT);
        self::assertSame(['lime-plaster'], array_column(self::at($project, 'sets'), 'name'));
        $this->client->request('GET', self::text(self::at($maps, 0)['thumbnail']));
        self::assertSame('image/webp', $this->client->getResponse()->headers->get('Content-Type'));
    }

    /** @return iterable<string, array{string, string, string}> */
    public static function refusals(): iterable
    {
        $png = Png::bytes(4, 4, 3, str_repeat("\1\2\3", 16));
        yield 'no image' => ['notes.png', 'These are notes.', 'notes.png is no PNG, JPEG, WebP or TGA image.'];
        yield 'empty' => ['empty.png', '', 'empty.png'];
        yield 'too many pixels' => ['wide.png', substr_replace($png, pack('N', 4097), 16, 4), 'wide.png has 4097 x 4 pixels; a map may have 4096 a side.'];
        yield 'broken off' => ['half.png', substr($png, 0, -30), 'half.png is damaged'];
        yield 'a path for a name' => ['../../etc/rock.png', 'text', 'rock.png is no PNG, JPEG, WebP or TGA image.'];
    }

    #[DataProvider('refusals')]
    public function testAFileThatCannotBeAMapIsRefusedByName(string $name, string $bytes, string $message): void
    {
        $problem = $this->upload($name, $bytes, $bytes === '' ? 422 : 422);
        self::assertStringContainsString($message, self::text($problem['detail']));
    }

    /** Whatever comes, it is looked at or refused by name. */
    public function testFiveHundredMutatedFilesAreAnswered(): void
    {
        $png = Png::bytes(9, 6, 4, random_bytes(216));
        $deep = Png::ofImage(new Image(9, 6, 1, range(0, 53), true));
        $path = (string) tempnam(sys_get_temp_dir(), 'rilta-zip');
        $zip = new \ZipArchive();
        $zip->open($path, \ZipArchive::OVERWRITE);
        $zip->addFromString('a/rock.png', $png);
        $zip->addFromString('a/rock_height.png', $deep);
        $zip->close();
        $seeds = ['rock.png' => $png, 'rock_height.png' => $deep, 'rock.zip' => (string) file_get_contents($path)];
        foreach (['jpeg' => 'rock.jpg', 'webp' => 'rock.webp', 'tga' => 'rock.tga'] as $format => $name) {
            $magick = new \Imagick();
            $magick->newImage(9, 6, new \ImagickPixel('rgba(200,100,50,0.5)'), $format);
            $seeds[$name] = $magick->getImageBlob();
        }
        mt_srand(23);
        $answers = [];
        for ($i = 0; $i < 500; ++$i) {
            $name = array_keys($seeds)[$i % \count($seeds)];
            $bytes = $seeds[$name];
            for ($k = mt_rand(1, 5); $k > 0; --$k) {
                $at = mt_rand(0, \strlen($bytes) - 1);
                $bytes = match (mt_rand(0, 4)) {
                    0 => substr($bytes, 0, max(1, $at)),
                    1 => substr_replace($bytes, random_bytes(mt_rand(1, 9)), $at, 0),
                    default => substr_replace($bytes, \chr(mt_rand(0, 255)), $at, 1),
                };
            }
            file_put_contents($path, $bytes);
            $this->client->request('POST', '/api/projects/' . self::PROJECT . '/uploads', files: ['file' => new UploadedFile($path, $name, test: true)], server: ['HTTP_X_RILTA' => '1']);
            $status = $this->client->getResponse()->getStatusCode();
            self::assertContains($status, [201, 422], "$i $name: " . $this->client->getResponse()->getContent());
            $answers[$status] = ($answers[$status] ?? 0) + 1;
        }
        unlink($path);
        self::assertGreaterThan(50, min($answers), 'both happen: ' . json_encode($answers));
    }

    public function testAFileOfMoreThan64MiBIsRefused(): void
    {
        $problem = $this->upload('huge.png', "\x89PNG\r\n\x1a\n" . str_repeat("\0", ImageFile::MOST_BYTES), 422);
        self::assertSame('huge.png has 64.0 MiB; a map may have 64 MiB.', $problem['detail']);
    }

    public function testAMapOfAnotherSizeIsKeptWithAFindingThatMendsIt(): void
    {
        $maps = [];
        foreach (['slate_albedo.png' => 8, 'slate_normal.png' => 8, 'slate_rough.png' => 4] as $file => $size) {
            $maps[] = $this->looked($file, Png::bytes($size, $size, 3, str_repeat("\x80\x80\xF0", $size * $size)));
        }
        $kept = $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => $maps], 201);
        self::assertSame([], $kept['refused']);
        $finding = self::at($kept, 'sets', 0, 'maps', 2, 'findings', 1);
        self::assertSame(['size', true, 'slate_rough.png has 4 x 4 pixels; the set has 8 x 8.', ['resample']], [$finding['code'], $finding['grave'], $finding['text'], $finding['fixes']]);
        $id = self::int(self::at($kept, 'sets', 0, 'maps', 2)['id']);
        $mended = self::at($this->api('POST', "/api/maps/$id/fix", ['fix' => 'resample']), 'maps', 2);
        self::assertSame([8, 8, 2, 'resample', ['constant']], [$mended['width'], $mended['height'], $mended['number'], $mended['made'], array_column(self::at($mended, 'findings'), 'code')]);
    }

    public function testAMapWhoseRoleIsTakenBecomesANewVersionAndTheOldOneCanBeRestored(): void
    {
        $this->importSet();
        $next = $this->looked('rock_diffuse.png', Png::bytes(8, 8, 3, str_repeat("\1\2\3", 64)));
        $kept = $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => [$next]], 201);
        $map = self::at($kept, 'sets', 0, 'maps', 0);
        self::assertSame(1.5, self::at($kept, 'sets', 0)['extent'], 'as it was confirmed');
        self::assertSame(['rock_diffuse.png', 2, 'rock_basecolor.png'], [$map['file'], $map['number'], self::at($map, 'versions', 0)['file']]);
        $back = self::at($this->api('POST', '/api/maps/' . self::int($map['id']) . '/versions/1/restore'), 'maps', 0);
        self::assertSame(['rock_basecolor.png', 3, 'as version 1'], [$back['file'], $back['number'], $back['made']]);
        $problem = $this->api('POST', '/api/maps/' . self::int($map['id']) . '/versions/7/restore', null, 404);
        self::assertSame('There is no version 7 of rock_basecolor.png; there are 1, 2.', $problem['detail']);
        $twice = $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => [$next, ['file' => 'rock_col.png'] + $next]], 201);
        self::assertSame('rock_col.png cannot be the base colour as well: rock_diffuse.png is.', self::at($twice, 'refused', 0)['reason']);
    }

    public function testWhatWasNeverUploadedCannotBeKept(): void
    {
        foreach ([str_repeat('0', 64), '../../secrets', 'x'] as $sha) {
            $kept = $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => [['file' => 'a.png', 'sha256' => $sha, 'set' => 'a', 'role' => 'normal', 'encoding' => 'data', 'extent' => 1]]], 201);
            self::assertSame('a.png was not uploaded, or its upload was thrown away.', self::at($kept, 'refused', 0)['reason']);
            self::assertSame([], $kept['sets']);
        }
    }

    public function testRoleAndEncodingCanBeCorrected(): void
    {
        $set = $this->importSet();
        $id = self::int(self::at($set, 'maps', 3)['id']);
        $changed = $this->api('PATCH', "/api/maps/$id", ['role' => 'height']);
        self::assertSame('height', self::at($changed, 'maps', 3)['role']);
        $changed = $this->api('PATCH', "/api/maps/$id", ['encoding' => 'colour', 'extent' => 3.5]);
        self::assertSame(['colour', 3.5], [self::at($changed, 'maps', 3)['encoding'], $changed['extent']]);
        $problem = $this->api('PATCH', "/api/maps/$id", ['role' => 'normal'], 422);
        self::assertSame('rock_normal.png is the normal of rock already.', $problem['detail']);
    }

    public function testWhatIsWrongWithAMapIsToldWithItsFigureAndMended(): void
    {
        $normals = '';
        for ($i = 0; $i < 1024; ++$i) {
            // Waves along both diagonals, with the green channel pointing down.
            [$x, $y] = [$i % 32, intdiv($i, 32)];
            [$dx, $dy] = [0.4 * cos(($x + $y) * \M_PI / 8), 0.4 * cos(($x + $y) * \M_PI / 8)];
            $long = sqrt($dx ** 2 + $dy ** 2 + 1);
            $normals .= pack('C3', ...array_map(static fn (float $c): int => (int) round(($c / $long + 1) * 127.5), [-$dx, -$dy, 1.0]));
        }
        $maps = [];
        foreach (['silt_normal.png' => $normals, 'silt_rough.png' => str_repeat("\x33\x33\x33", 1024)] as $file => $pixels) {
            $maps[] = $this->looked($file, Png::bytes(32, 32, 3, $pixels));
        }
        $kept = self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => $maps], 201), 'sets', 0, 'maps');
        self::assertSame(['green'], array_column(self::at($kept, 0, 'findings'), 'code'));
        self::assertSame('Every texel is the same: 0.2.', self::at($kept, 1, 'findings', 0)['text']);
        $id = self::int(self::at($kept, 1)['id']);
        $wrong = self::at($this->api('PATCH', "/api/maps/$id", ['encoding' => 'colour']), 'maps', 1, 'findings', 0);
        self::assertSame(['encoding', true, 'data'], [$wrong['code'], $wrong['grave'], $wrong['encoding']]);
        self::assertSame(['constant'], array_column(self::at($this->api('PATCH', "/api/maps/$id", ['encoding' => 'data']), 'maps', 1, 'findings'), 'code'));
    }

    public function testTexelsComeAsTheKernelsReadThem(): void
    {
        $this->importSet();
        $lowered = $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => self::document()]);
        $this->client->request('GET', self::text(self::at($lowered, 'maps', 'rock/base-colour')['url']));
        $response = $this->client->getInternalResponse();
        self::assertSame('gzip', $response->getHeader('Content-Encoding'));
        $bytes = (string) gzdecode($response->getContent());
        self::assertSame('RTP1' . pack('V3', 8, 8, 4) . "\xC8\x64\x32\xFF", substr($bytes, 0, 20));
        self::assertSame(16 + 4 * (64 + 16 + 4 + 1), \strlen($bytes));
    }
}
