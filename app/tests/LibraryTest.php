<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Message\RunTask;
use Rilta\App\Service\Families;
use Rilta\App\Service\MapFiles;
use Rilta\App\Service\Mending;
use Rilta\App\Service\Queue;
use Rilta\App\Service\Tasks;
use Rilta\Core\Format\Png;
use Rilta\Core\Raster\Image;

/** What can be done with maps that are in the library. */
final class LibraryTest extends ApiTestCase
{
    public function testEveryFileOfAnArchiveIsLookedAt(): void
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'rilta-zip');
        $zip = new \ZipArchive();
        $zip->open($path, \ZipArchive::OVERWRITE);
        $zip->addFromString('shell/Shell_01_Albedo.png', Png::bytes(4, 4, 3, random_bytes(48)));
        $zip->addFromString('shell/Shell_01_orm.png', Png::bytes(4, 4, 3, random_bytes(48)));
        $zip->addFromString('shell/licence.txt', 'Do as you like.');
        $zip->addFromString('../up.png', 'x');
        $zip->close();
        $looked = $this->upload('shell.zip', (string) file_get_contents($path));
        unlink($path);
        $maps = self::at($looked, 'maps');
        self::assertSame([['base-colour', 'shell-01', 1], ['packed', 'shell-01', 1]], array_map(static fn (mixed $m): array => \is_array($m) ? [$m['role'], $m['set'], $m['alternate']] : [], $maps));
        self::assertSame([['role' => 'occlusion', 'channels' => 'x', 'inverted' => false], ['role' => 'roughness', 'channels' => 'y', 'inverted' => false], ['role' => 'metallic', 'channels' => 'z', 'inverted' => false]], self::at($maps, 1, 'channels'));
        self::assertSame(['licence.txt is no PNG, JPEG, WebP or TGA image.', '../up.png is refused: its name leads out of the archive.'], array_column(self::at($looked, 'refused'), 'reason'));
        $kept = self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => array_map(static fn (mixed $m): array => ['extent' => 1.0] + array_intersect_key(\is_array($m) ? $m : [], array_flip(['file', 'sha256', 'set', 'role', 'encoding', 'inverted', 'channels'])), $maps)], 201), 'sets', 0);
        self::assertSame(['occlusion', 'roughness', 'metallic', 'base-colour', 'packed'], array_column(self::at($kept, 'roles'), 'role'));
        self::assertSame('shell-01/packed-orm', self::at($kept, 'maps', 1)['name']);
        $lowered = $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => self::document('shell-01')]);
        self::assertSame(['shell-01/base-colour', 'shell-01/packed-orm'], array_keys(self::at($lowered, 'maps')), 'and a material reads it with no further setting');
    }

    public function testAFileThatIsKnownIsNamed(): void
    {
        $this->importSet();
        self::assertSame(['rock/occlusion'], self::at($this->upload('other_ao.png', Png::bytes(8, 8, 1, str_repeat("\xFF", 64))), 'maps', 0, 'known'));
    }

    public function testFixesMakeVersionsAndNothingIsLost(): void
    {
        $set = $this->importSet();
        $id = self::int(self::at($set, 'maps', 1)['id']);
        $before = self::at($set, 'maps', 1)['texels'];
        $map = self::at($this->api('POST', "/api/maps/$id/fix", ['fix' => 'flip-green']), 'maps', 1);
        self::assertSame([2, 'flip green', 1], [$map['number'], $map['made'], \count(self::at($map, 'versions'))]);
        self::assertNotSame($before, $map['texels'], 'the address changes with the content');
        self::assertSame("\x80\x7F\xFF\xFF", $this->texel($map));
        $problem = $this->api('POST', '/api/maps/' . self::int(self::at($set, 'maps', 0)['id']) . '/fix', ['fix' => 'flip-green'], 422);
        self::assertSame('rock_basecolor.png is no normal map; only those have a green channel that points somewhere.', $problem['detail']);
        self::assertSame('"fix": expected flip-green, invert, decode, encode, unmultiply, resample, cross-fade, min-cut.', $this->api('POST', "/api/maps/$id/fix", ['fix' => 'polish'], 422)['detail']);
    }

    public function testSamplingIsKeptToldAndReachesTheStage(): void
    {
        $set = $this->importSet();
        $id = self::int(self::at($set, 'maps', 0)['id']);
        $before = $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => self::document()]);
        self::assertCount(2, self::at($before, 'arrays', 0, 'slots') === ['rock/base-colour'] ? self::at($before, 'arrays', 2, 'slots') : self::at($before, 'arrays', 0, 'slots'));
        $map = self::at($this->api('PATCH', "/api/maps/$id", ['sampling' => ['wrapU' => 'mirror', 'anisotropy' => 8]]), 'maps', 0);
        self::assertSame(['filter' => 'smooth', 'mips' => true, 'anisotropy' => 8, 'wrapU' => 'mirror', 'wrapV' => 'repeat'], $map['sampling']);
        $map = self::at($this->api('PATCH', "/api/maps/$id", ['sampling' => ['mips' => false]]), 'maps', 0);
        self::assertSame(['filter' => 'smooth', 'mips' => false, 'anisotropy' => 8, 'wrapU' => 'mirror', 'wrapV' => 'repeat'], $map['sampling'], 'the rest stays');
        $after = $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => self::document()]);
        self::assertNotSame($before['hash'], $after['hash'], 'the same code with other textures is another picture');
        $own = array_values(array_filter(self::at($after, 'arrays'), static fn (mixed $a): bool => \is_array($a) && $a['slots'] === ['rock/base-colour']))[0];
        self::assertSame($map['sampling'], self::at($own, 'sampling'));
        foreach ([
            [['wrapU' => 'border'], 'This is no sampling: wrapU: expected "repeat", "mirror", "edge".'],
            ['sharp', '"sampling": expected an object.'],
        ] as [$sampling, $detail]) {
            self::assertSame($detail, $this->api('PATCH', "/api/maps/$id", ['sampling' => $sampling], 422)['detail']);
        }
    }

    public function testASetIsCutIntoASheetThatLanesFollow(): void
    {
        $set = $this->importSet();
        self::assertNull($set['sheet']);
        $url = '/api/sets/' . self::int($set['id']) . '/sheet';
        $document = ['lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => [['step' => 'origin'], ['step' => 'cell', 'values' => ['cut' => 'sheet', 'sheet' => 'rock', 'rectangle' => 3.0]]]]]] + self::document();
        $lower = fn (): array => $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => $document]);
        self::assertSame('the map set "rock" is not cut into a sheet; the map library does that', self::at($lower(), 'problems', 0)['message']);
        self::assertSame(['columns' => 4, 'rows' => 2, 'rectangles' => []], $this->api('PUT', $url, ['columns' => 4, 'rows' => 2])['sheet']);
        $grid = $lower();
        self::assertSame([], $grid['problems']);
        $parts = [['name' => 'Screw', 'x' => 12.5, 'y' => 0, 'width' => 25, 'height' => 50.5]];
        self::assertSame([['name' => 'Screw', 'x' => 12.5, 'y' => 0.0, 'width' => 25.0, 'height' => 50.5]], self::at($this->api('PUT', $url, ['rectangles' => $parts]), 'sheet', 'rectangles'));
        self::assertNotSame($grid['hash'], $lower()['hash'], 'materials follow');
        self::assertSame('This is no sheet: rectangles, Screw, width: expected 0 to 100 percent.', $this->api('PUT', $url, ['rectangles' => [['width' => 200] + $parts[0]]], 422)['detail']);
        self::assertNull($this->api('DELETE', $url)['sheet']);
    }

    public function testTheLibraryIsSearchedPageByPage(): void
    {
        for ($i = 10; $i < 40; ++$i) {
            $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => [$this->looked("gravel{$i}x_basecolor.png", Png::bytes(4, 4, 3, str_repeat("\x80\x70\x60", 16)))]], 201);
        }
        $rock = $this->importSet('rock', 16);
        $url = '/api/projects/' . self::PROJECT . '/sets';
        $names = static fn (array $page): array => array_column(self::at($page, 'sets'), 'name');
        $first = $this->api('GET', $url);
        self::assertSame([31, 1, 2, 24], [$first['total'], $first['page'], $first['pages'], \count(self::at($first, 'sets'))]);
        $second = $this->api('GET', "$url?page=2");
        self::assertCount(7, self::at($second, 'sets'));
        self::assertSame(['gravel34x', 'gravel35x', 'gravel36x', 'gravel37x', 'gravel38x', 'gravel39x', 'rock'], $names($second), 'where the first ended');
        self::assertSame(2, $this->api('GET', "$url?page=99")['page'], 'beyond the last is the last');
        self::assertSame(['rock'], $names($this->api('GET', "$url?words=16x16+NORMAL")), 'by size and role');
        self::assertSame(['gravel17x'], $names($this->api('GET', "$url?words=gravel17")));
        self::assertSame([], $names($this->api('GET', "$url?words=100%25")), 'signs of the query language are letters');

        $id = self::int($rock['id']);
        self::assertSame(['wet', 'sea-wall'], $this->api('PATCH', "/api/sets/$id", ['tags' => ['Wet', 'Sea wall', 'wet']])['tags']);
        self::assertSame(['rock'], $names($this->api('GET', "$url?words=sea-wall")), 'by tag');
        $this->api('POST', '/api/projects/' . self::PROJECT . '/families', ['name' => 'shore', 'sets' => ['rock', 'gravel11x']], 201);
        self::assertSame(['gravel11x', 'rock'], $names($this->api('GET', "$url?words=shore")), 'by family');
        self::assertSame(30, $this->api('GET', "$url?words=missing")['total'], 'by finding');

        $map = self::int(self::at($rock, 'maps', 1)['id']);
        $this->api('DELETE', "/api/maps/$map", null, 204);
        self::assertSame(31, $this->api('GET', "$url?words=missing")['total'], 'the search follows at once');
        self::assertSame(31, $this->api('GET', "$url?faulty=1")['total']);
        self::assertSame('"tags": expected a list of at most 12 texts.', $this->api('PATCH', "/api/sets/$id", ['tags' => 'wet'], 422)['detail']);
        foreach (['page=two' => '"page": expected a whole number from 0 to 999999.', 'faulty=yes' => '"faulty": expected a whole number from 0 to 1.', 'words[]=a' => '"words": expected at most 200 characters.'] as $query => $detail) {
            self::assertSame($detail, $this->api('GET', "$url?$query", null, 400)['detail']);
        }
    }

    public function testADraftIsThereUntilTheLevelsAre(): void
    {
        $colours = '';
        for ($i = 0; $i < 1024 * 512; ++$i) {
            $colours .= $i % 1024 < 512 ? "\xC8\x64\x32" : "\x10\x20\x30";
        }
        $heights = Png::ofImage(new Image(1024, 512, 1, array_fill(0, 1024 * 512, 40000), true));
        $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => [$this->looked('rock_basecolor.png', Png::bytes(1024, 512, 3, $colours)), $this->looked('rock_height.png', $heights)]], 201);
        $document = ['lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => [['step' => 'origin', 'values' => ['lean' => true]]]]]] + self::document();
        $maps = self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => $document]), 'maps');
        $pack = function (mixed $url): string {
            $this->client->request('GET', self::text($url));
            $file = $this->client->getResponse();
            self::assertInstanceOf(\Symfony\Component\HttpFoundation\BinaryFileResponse::class, $file);

            return (string) gzdecode((string) file_get_contents($file->getFile()->getPathname()));
        };
        $colour = $pack(self::at($maps, 'rock/base-colour')['draft']);
        self::assertSame('RTP1' . pack('V3', 320, 160, 4), substr($colour, 0, 16));
        self::assertSame("\xC8\x64\x32\xFF", substr($colour, 16, 4));
        self::assertSame("\x10\x20\x30\xFF", substr($colour, 16 + 4 * 319, 4));
        $height = $pack(self::at($maps, 'rock/height')['draft']);
        self::assertSame(['RTP1' . pack('V3', 320, 160, 2), pack('v', 40000)], [substr($height, 0, 16), substr($height, 16, 2)], 'with all of its bits');
        self::assertSame(0, $this->work(), 'for a moment new maps are left to whoever takes them to the stage');
        $this->wait();
        $this->drain();
        $maps = self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => $document]), 'maps');
        self::assertSame([null, null], array_column($maps, 'draft'));
    }

    public function testAllMapsOfASetBecomeSeamlessTogether(): void
    {
        $maps = [];
        foreach (['cliff_albedo.png' => 3, 'cliff_rough.png' => 1] as $file => $channels) {
            $bytes = '';
            for ($i = 0; $i < 32 * 32; ++$i) {
                $bytes .= str_repeat(\chr(4 * ($i % 32) + 2 * intdiv($i, 32)), $channels);
            }
            $maps[] = $this->looked($file, Png::bytes(32, 32, $channels, $bytes));
        }
        $set = self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => $maps], 201), 'sets', 0);
        self::assertContains('seam', array_column(self::at($set, 'maps', 0, 'findings'), 'code'));
        $mended = $this->api('POST', '/api/maps/' . self::int(self::at($set, 'maps', 0)['id']) . '/fix', ['fix' => 'cross-fade']);
        self::assertSame([2, 2], array_column(self::at($mended, 'maps'), 'number'));
        foreach (self::at($mended, 'maps') as $map) {
            self::assertNotContains('seam', array_column(self::at($map, 'findings'), 'code'));
        }
    }

    public function testWhatASetLacksIsFilledIn(): void
    {
        $deep = Png::ofImage(new Image(16, 16, 1, array_map(static fn (int $i): int => (int) round(32767 * (1 + sin(2 * \M_PI * ($i % 16) / 16))), range(0, 255)), true));
        $maps = [$this->looked('dune_col.png', Png::bytes(16, 16, 3, str_repeat("\x80\x80\x80", 256))), $this->looked('dune_height.png', $deep)];
        self::assertSame('dune', $maps[1]['set']);
        $set = self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => $maps], 201), 'sets', 0);
        self::assertSame(16, self::at($set, 'maps', 1)['bits']);
        self::assertSame(['normal', 'roughness'], array_column(self::at($set, 'missing'), 'role'));
        $url = '/api/sets/' . self::int($set['id']) . '/fill';
        $this->api('POST', $url, ['role' => 'normal', 'from' => 'height'], 201);
        $this->api('POST', $url, ['role' => 'occlusion', 'from' => 'height'], 201);
        $filled = $this->api('POST', $url, ['role' => 'roughness', 'value' => 0.7], 201);
        self::assertSame([[], ['', '', 'made from height', 'made from height', 'one value, 0.7']], [$filled['missing'], array_column(self::at($filled, 'maps'), 'made')]);
        self::assertSame("\xB3", $this->texel(self::at($filled, 'maps', 4)));
        foreach ([
            [['role' => 'normal', 'from' => 'height'], 'dune has a map for normal already.'],
            [['role' => 'metallic', 'from' => 'height'], 'No way leads from height to metallic.'],
            [['role' => 'emission', 'value' => 1], 'This cannot be filled in.'],
            [['role' => 'opacity', 'from' => 'mask'], 'dune has no map for mask to make it from.'],
            [['role' => 'opacity', 'value' => 3], '"value": expected a number from 0 to 1.'],
        ] as [$body, $detail]) {
            self::assertSame($detail, $this->api('POST', $url, $body, 422)['detail']);
        }
    }

    public function testPackingAndUnpacking(): void
    {
        $set = $this->importSet();
        [, , $roughness, $occlusion] = array_column(self::at($set, 'maps'), 'id');
        $url = '/api/sets/' . self::int($set['id']) . '/pack';
        $channels = [
            ['map' => $occlusion, 'channel' => 'x', 'inverted' => false, 'low' => 0, 'high' => 1],
            ['map' => $roughness, 'channel' => 'x', 'inverted' => true, 'low' => 0, 'high' => 1],
            ['low' => 0.25],
        ];
        $packed = $this->api('POST', $url, ['channels' => $channels], 201);
        $map = self::at($packed, 'maps', 4);
        self::assertSame(['rock/packed-os', 'packed', 'packed'], [$map['name'], $map['role'], $map['made']]);
        self::assertSame([['role' => 'occlusion', 'channels' => 'x', 'inverted' => false], ['role' => 'roughness', 'channels' => 'y', 'inverted' => true]], $map['channels']);
        self::assertSame("\xFF\x66\x40\xFF", $this->texel($map));
        $lowered = $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => self::document()]);
        self::assertSame(['rock/base-colour', 'rock/normal', 'rock/packed-os'], array_keys(self::at($lowered, 'maps')));
        self::assertSame(['rock/packed-os', 'y', true], array_values(array_intersect_key(self::at($packed, 'roles', 1), array_flip(['from', 'channels', 'inverted']))));
        self::assertSame('rock/packed-os-2', self::at($this->api('POST', $url, ['channels' => $channels], 201), 'maps', 5)['name'], 'nothing is overwritten');
        $this->api('DELETE', '/api/maps/' . self::int($roughness), null, 204);
        $unpacked = $this->api('POST', '/api/maps/' . self::int($map['id']) . '/unpack', null, 201);
        $made = self::at($unpacked, 'maps', 5);
        self::assertSame(['roughness', true, 'unpacked from rock-packed-os.png'], [$made['role'], $made['inverted'], $made['made']]);
        foreach ([
            [['low' => 1], '"channels": expected a list of 3 to 4 objects.'],
            [[['low' => 1], ['low' => 1], ['low' => 1]], 'Nothing is packed: choose a channel of a map for at least one.'],
            [[['map' => $occlusion, 'channel' => 'r', 'inverted' => false, 'low' => 0, 'high' => 1], ['low' => 1], ['low' => 1]], '"channels/0/channel": expected x, y, z, w.'],
            [[['map' => $occlusion, 'channel' => 'x', 'inverted' => false, 'low' => 0.5, 'high' => 0.5], ['low' => 1], ['low' => 1]], 'The levels of a channel have to differ.'],
            [[['map' => 999999, 'channel' => 'x', 'inverted' => false, 'low' => 0, 'high' => 1], ['low' => 1], ['low' => 1]], 'There is no map 999999.'],
        ] as [$wrong, $detail]) {
            $this->client->request('POST', $url, server: ['CONTENT_TYPE' => 'application/json'], content: json_encode(['channels' => array_is_list($wrong) ? $wrong : [$wrong]], \JSON_THROW_ON_ERROR));
            $answer = json_decode((string) $this->client->getResponse()->getContent(), true);
            self::assertSame($detail, \is_array($answer) ? $answer['detail'] : null);
            self::assertContains($this->client->getResponse()->getStatusCode(), [404, 422]);
        }
    }

    public function testAMaskInColoursGivesAnyOfItsChannels(): void
    {
        $looked = $this->looked('tide_mask.png', Png::bytes(8, 8, 3, str_repeat("\xC8\x64\x32", 64)));
        $set = self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => [$looked]], 201), 'sets', 0);
        $mask = self::at($set, 'maps', 0);
        self::assertSame(['mask', false], [$mask['role'], $mask['scalar']]);
        $packed = $this->api('POST', '/api/sets/' . self::int($set['id']) . '/pack', ['channels' => [['map' => $mask['id'], 'channel' => 'y', 'inverted' => false, 'low' => 0, 'high' => 1], ['low' => 0], ['low' => 1]]], 201);
        self::assertSame("\x64\x00\xFF\xFF", $this->texel(self::at($packed, 'maps', 1)));
        self::assertSame([['role' => 'mask', 'channels' => 'x', 'inverted' => false]], self::at($packed, 'maps', 1)['channels']);
    }

    public function testANormalInTwoChannelsIsReadAsOne(): void
    {
        $set = $this->importSet();
        [, $normal, $roughness] = array_column(self::at($set, 'maps'), 'id');
        $one = static fn (mixed $map, string $channel): array => ['map' => $map, 'channel' => $channel, 'inverted' => false, 'low' => 0, 'high' => 1];
        $packed = $this->api('POST', '/api/sets/' . self::int($set['id']) . '/pack', ['channels' => [$one($normal, 'x'), $one($normal, 'y'), $one($roughness, 'x')]], 201);
        self::assertSame([['normal', 'xy'], ['roughness', 'z']], array_map(static fn (mixed $r): array => \is_array($r) ? [$r['role'], $r['channels']] : [], self::at($packed, 'maps', 4, 'channels')));
        $this->api('DELETE', '/api/maps/' . self::int($normal), null, 204);
        $unpacked = self::at($this->api('POST', '/api/maps/' . self::int(self::at($packed, 'maps', 4)['id']) . '/unpack', null, 201), 'maps', 4);
        self::assertSame(['normal', "\x80\x80\xFF\xFF"], [$unpacked['role'], $this->texel($unpacked)], 'and made one again');
    }

    public function testSmoothnessIsKnownForWhatItIs(): void
    {
        $looked = $this->looked('rock_gloss.png', Png::bytes(8, 8, 1, str_repeat("\xCC", 64)));
        self::assertSame(['roughness', true], [$looked['role'], $looked['inverted']]);
        $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => [$looked]], 201);
        $code = self::text($this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => self::document()])['material']);
        self::assertMatchesRegularExpression('/1\.0 - texel_roughness/', $code);
    }

    public function testDeletedMapsSayWhereTheyWereUsedAndComeBack(): void
    {
        $set = $this->importSet();
        $material = $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => self::document()], 201);
        $uses = self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/sets'), 'sets', 0, 'uses');
        self::assertSame([['id' => $material['id'], 'name' => 'Rock']], $uses);
        $id = self::int(self::at($set, 'maps', 2)['id']);
        $this->api('DELETE', "/api/maps/$id", null, 204);
        $left = self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/sets'), 'sets', 0);
        self::assertSame([['base-colour', 'normal', 'occlusion'], ['roughness']], [array_column(self::at($left, 'maps'), 'role'), array_column(self::at($left, 'missing'), 'role')]);
        self::assertSame("There is no map $id; it was deleted.", $this->api('PATCH', "/api/maps/$id", ['extent' => 2], 404)['detail']);
        self::assertCount(4, self::at($this->api('POST', "/api/maps/$id/bring-back"), 'maps'));
    }

    public function testWorkersMakeWhatIsDerivedOneMapAfterTheOther(): void
    {
        $set = $this->importSet();
        self::assertSame([false, false, false, false], array_column(self::at($set, 'maps'), 'derived'));
        $db = $this->service(Connection::class);
        $this->wait();
        [$first, $second] = array_map(static fn (mixed $map): int => self::int(\is_array($map) ? $map['id'] : 0), \array_slice(self::at($set, 'maps'), 0, 2));
        // Another worker has the first in hand; one died over the second.
        $db->executeStatement('UPDATE queue SET delivered_at = UTC_TIMESTAMP() WHERE body = ?', ["{\"map\":$first}"]);
        $db->executeStatement('UPDATE queue SET delivered_at = UTC_TIMESTAMP() - INTERVAL 1 MINUTE WHERE body = ?', ["{\"map\":$second}"]);
        self::assertSame(3, $this->work('--once', true));
        $maps = fn (): array => self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/sets'), 'sets', 0, 'maps');
        self::assertSame([false, true, true, true], array_column($maps(), 'derived'));
        $record = $this->service(EntityManagerInterface::class)->find(MapRecord::class, $second) ?? self::fail();
        self::assertFileExists(\dirname($this->service(MapFiles::class)->packPath($record)) . '/' . basename(MapFiles::name($record)) . '.texels.gz');
        self::assertFalse(self::at($this->api('POST', "/api/maps/$second/fix", ['fix' => 'flip-green']), 'maps', 1)['derived'], 'a new version waits anew');
        self::assertSame(1, $this->work('--once', true));
        self::assertTrue(self::at($maps(), 1)['derived']);
        self::assertFalse(self::at($this->api('PATCH', "/api/maps/$second", ['encoding' => 'colour']), 'maps', 1)['derived'], 'as does another reading');
        self::assertSame(1, $this->work('--once', true));
        $this->api('PATCH', "/api/maps/$second", ['extent' => 3.0]);
        self::assertSame(0, $this->work('--once', true), 'what changes nothing of it makes no work');
    }

    public function testAMapThatCannotBePreparedSaysWhy(): void
    {
        $set = $this->importSet();
        $this->wait();
        $this->service(Connection::class)->executeStatement('UPDATE map SET attempts = 12');
        $this->drain();
        $maps = self::at($this->api('GET', '/api/projects/' . self::PROJECT . '/sets'), 'sets', 0, 'maps');
        self::assertSame([false, 'The workers that did it died again and again; it may need more memory than there is.'], [self::at($maps, 0)['derived'], self::at($maps, 0)['failure']]);
        $id = self::int(self::at($maps, 1)['id']);
        self::assertSame('', self::at($this->api('POST', "/api/maps/$id/fix", ['fix' => 'flip-green']), 'maps', 1)['failure'], 'another version is another matter');
        $this->drain();
        self::assertTrue(self::at($this->api('GET', '/api/sets/' . self::int($set['id'])), 'maps', 1)['derived']);
    }

    public function testAlphaThatIsWhiteSurvivesAFix(): void
    {
        $looked = $this->looked('leaf_albedo.png', Png::bytes(4, 4, 4, str_repeat("\x10\x20\x30\xFF", 16)));
        $set = self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => [$looked]], 201), 'sets', 0);
        self::assertTrue(self::at($set, 'maps', 0)['alpha']);
        $map = self::at($this->api('POST', '/api/maps/' . self::int(self::at($set, 'maps', 0)['id']) . '/fix', ['fix' => 'invert']), 'maps', 0);
        self::assertTrue($map['alpha']);
        self::assertSame("\xEF\xDF\xCF\xFF", $this->texel($map));
    }

    /**
     * The first texel of a map as it is read.
     *
     * @param array<mixed> $map
     */
    private function texel(array $map): string
    {
        $this->client->request('GET', self::text($map['texels']));
        $bytes = (string) gzdecode($this->client->getInternalResponse()->getContent());
        self::assertSame('RTP1', substr($bytes, 0, 4));

        return substr($bytes, 16, self::int(unpack('V', $bytes, 12)[1] ?? 0));
    }

    public function testLargeMapsAreWorkedOnInTheBackground(): void
    {
        $maps = [];
        foreach (['basecolor' => "\xC8\x64\x32", 'roughness' => "\x40", 'ao' => "\xE0"] as $word => $texel) {
            $maps[] = $this->looked("cliff_$word.png", Png::bytes(1024, 1024, \strlen($texel), str_repeat($texel, 1024 ** 2)), 2.0);
        }
        $set = self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => $maps], 201), 'sets', 0);
        $id = self::int(self::at($set, 'maps', 1)['id']);
        // One megapixel is done at once.
        self::assertSame(2, self::at($this->api('POST', "/api/maps/$id/fix", ['fix' => 'invert']), 'maps', 1)['number']);
        $task = $this->api('POST', "/api/maps/$id/fix", ['fix' => 'cross-fade'], 202);
        self::assertSame(['waiting', 0, 3, 'Make seamless by a cross-fade: cliff/roughness', $set['id']], [$task['state'], $task['done'], $task['all'], $task['label'], $task['set']]);
        $other = $this->api('POST', "/api/maps/$id/fix", ['fix' => 'min-cut'], 202);
        self::assertSame('cancelled', $this->api('POST', '/api/tasks/' . self::int($other['id']) . '/cancel', [])['state']);
        $this->drain();
        self::assertSame('cancelled', $this->api('GET', '/api/tasks/' . self::int($other['id']))['state'], 'what is cancelled is not begun');
        $done = $this->api('GET', '/api/tasks/' . self::int($task['id']));
        self::assertSame(['done', 3], [$done['state'], $done['done']]);
        $after = $this->api('GET', '/api/sets/' . self::int($set['id']));
        self::assertSame([2, 3, 2], array_column(self::at($after, 'maps'), 'number'));
        // What cannot be done is told in the words that a small map would have got.
        $wrong = $this->api('POST', '/api/sets/' . self::int($set['id']) . '/pack', ['channels' => array_map(static fn (mixed $map): array => ['map' => self::int(\is_array($map) ? $map['id'] : null), 'channel' => 'x', 'inverted' => false, 'low' => 0.0, 'high' => 1.0], self::at($after, 'maps'))], 202);
        $this->api('DELETE', "/api/maps/$id", null, 204);
        $this->drain();
        $failed = $this->api('GET', '/api/tasks/' . self::int($wrong['id']));
        self::assertSame(['failed', 'The map is no longer there.'], [$failed['state'], $failed['failure']]);
        $this->api('GET', '/api/tasks/999999', null, 404);
    }

    public function testWhatIsCancelledInTheMiddleLeavesNothingBehind(): void
    {
        $maps = [];
        foreach (['basecolor' => "\xC8\x64\x32", 'roughness' => "\x40"] as $word => $texel) {
            $maps[] = $this->looked("cliff_$word.png", Png::bytes(1024, 1024, \strlen($texel), str_repeat($texel, 1024 ** 2)), 2.0);
        }
        $set = self::at($this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => $maps], 201), 'sets', 0);
        $task = self::int($this->api('POST', '/api/maps/' . self::int(self::at($set, 'maps', 0)['id']) . '/fix', ['fix' => 'cross-fade'], 202)['id']);
        $db = $this->service(Connection::class);
        $between = $this->createStub(Connection::class);
        // Somebody gives it up when its first map is finished.
        $between->method('executeStatement')->willReturnCallback(
            static function (string $sql, array $parameters) use ($db, $task): int|string {
                if (str_contains($sql, 'done + 1')) {
                    $db->executeStatement("UPDATE task SET state = 'cancelled' WHERE id = ?", [$task]);
                }

                return $db->executeStatement($sql, array_values($parameters));
            },
        );
        $tasks = new Tasks($this->service(EntityManagerInterface::class), $between, $this->service(Mending::class), $this->service(Families::class), $this->service(Queue::class));
        $tasks->work(new RunTask($task));
        self::assertSame([], $db->fetchFirstColumn('SELECT id FROM map WHERE number <> 1'), 'all maps are what they were');
    }
}
