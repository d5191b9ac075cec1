<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\Persistence\ManagerRegistry;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\Console\Tester\CommandTester;

/** A project as a folder of text, and back. */
class FolderTest extends ApiTestCase
{
    protected const URL = '/api/projects/' . self::PROJECT;

    protected string $folder;
    private int $material;

    protected function setUp(): void
    {
        parent::setUp();
        $this->folder = sys_get_temp_dir() . '/rilta-folder-' . bin2hex(random_bytes(4));
        $this->importSet();
        $this->material = self::int($this->api('POST', self::URL . '/materials', ['document' => self::document()], 201)['id']);
        $this->api('GET', self::URL . '/stage');
    }

    protected function tearDown(): void
    {
        exec('rm -rf ' . escapeshellarg($this->folder) . '*');
        parent::tearDown();
    }

    public function testAChangedNumberIsAChangedLineAndComesToTheServer(): void
    {
        self::assertSame([0, "Quay is in $this->folder: 1 materials, 1 map sets, 0 recipes, 1 stages."], $this->checkout());
        [$file] = $this->files('materials');
        $before = $this->written($file);
        self::assertStringContainsString("\n            \"lane\": \"main\",\n", $before);
        $this->change($file, '/"opacity": \d+/', '"opacity": 40');
        self::assertSame(1, \count(array_diff(explode("\n", $this->written($file)), explode("\n", $before))));
        self::assertSame([0, "  $file/layers/ground/opacity: 100 → 40\n1 change would be stored."], $this->commit(['--pretend' => true]));
        self::assertSame(1, $this->stored()['version']);
        self::assertSame([0, "  $file/layers/ground/opacity: 100 → 40\n1 change stored in Quay."], $this->commit());
        self::assertSame([2, 40], [$this->stored()['version'], self::at($this->stored(), 'document', 'layers', 0)['opacity']]);
        self::assertSame([0, 'The server has all that the folder has.'], $this->commit());
        self::assertSame([0, 'The folder has all that the server has.'], $this->checkout());
        self::assertStringContainsString("\n", $this->written('.rilta/.gitignore'));
    }

    public function testWhatBothChangedIsToldAndNothingIsTouched(): void
    {
        $this->checkout();
        [$file] = $this->files('materials');
        $this->change($file, '/"opacity": \d+/', '"opacity": 40');
        $this->save(['opacity' => 60], 'Renamed meanwhile');
        $text = $this->written($file);
        foreach ([$this->commit(), $this->checkout()] as [$status, $told]) {
            self::assertSame(1, $status);
            self::assertStringContainsString("  $file/layers/ground/opacity: folder: 40, server: 60\nNothing was changed.", $told);
        }
        self::assertSame([2, $text], [$this->stored()['version'], $this->written($file)]);
        self::assertStringStartsWith('--take is folder or server.', $this->commit(['--take' => 'mine'])[1]);
        // The name was changed on the server alone, so it stays in either case.
        self::assertSame([0, "  $file/layers/ground/opacity: 60 → 40\n1 change stored in Quay."], $this->commit(['--take' => 'folder']));
        self::assertSame(['Renamed meanwhile', 40], [$this->stored()['name'], self::at($this->stored(), 'document', 'layers', 0)['opacity']]);
        self::assertStringContainsString('"name": "Renamed meanwhile"', $this->written($file));
        $this->change($file, '/"opacity": \d+/', '"opacity": 41');
        $this->save(['opacity' => 61], 'Again');
        self::assertSame(0, $this->checkout(['--take' => 'server'])[0]);
        self::assertStringContainsString('"opacity": 61', $this->written($file));
    }

    public function testMaterialsStagesFamiliesAndSetsAreMadeChangedAndTakenAway(): void
    {
        $this->importSet('sand');
        $this->checkout();
        [$file] = $this->files('materials');
        $this->change($file, '/"name": "Rock"/', '"name": "Second"', 'materials/second.json');
        [$stage] = $this->files('stages');
        $this->change($stage, '/"seed": /', '"wears": "second", "seed": ');
        $this->change($stage, '/"Small stage"/', '"Another place"', 'stages/other.json');
        $this->change('families.json', '/{}/', '{"one": ["rock", "sand"]}');
        $this->change('sets/rock.json', '/"extent": [\d.]+,\s*"tags": \[\]/', '"extent": 3.5, "tags": ["wet"]');
        $this->change('sets/rock.json', '/("role": "roughness".*?"inverted": )false/s', '$1true');
        $this->change('sets/rock.json', '/,\s*\{\s*"role": "occlusion"[^{]*\{\}[^}]*\}/s', '');
        unlink("$this->folder/$file");
        [$status, $told] = $this->commit();
        self::assertSame(0, $status, $told);
        $cards = self::at($this->api('GET', self::URL . '/materials'), 'materials');
        self::assertSame(['Second'], array_column($cards, 'name'));
        self::assertNotNull($this->stored()['deletedAt']);
        $stages = self::at($this->api('GET', self::URL . '/stages'), 'stages');
        self::assertSame(['Small stage', 'Another place'], array_column($stages, 'name'));
        self::assertSame(self::at($cards, 0)['id'], self::at($this->api('GET', self::URL . '/stage'), 'document', 'objects', 0)['wears']);
        $set = self::at($this->api('GET', self::URL . '/sets'), 'sets', 0);
        self::assertSame([3.5, ['wet'], ['base-colour', 'normal', 'roughness'], true], [$set['extent'], $set['tags'], array_column(self::at($set, 'maps'), 'role'), self::at($set, 'maps', 2)['inverted']]);
        self::assertSame([0, 'The server has all that the folder has.'], $this->commit());
        // The last stage stays: a project has one.
        array_map(fn (string $one): bool => unlink("$this->folder/$one"), $this->files('stages'));
        self::assertSame([1, 'A project has at least one stage.'], $this->commit());
        self::assertCount(2, self::at($this->api('GET', self::URL . '/stages'), 'stages'));
    }

    public function testItIsMadeAgainElsewhereByteByByte(): void
    {
        $this->checkout();
        self::assertSame([0, 'Another quay is at /another-quay; this folder stays that of the project that it was checked out from.'], $this->commit(['--as' => 'Another quay']));
        [$status] = $this->ran('checkout', ['project' => 'another-quay', 'folder' => "$this->folder-2"]);
        self::assertSame(0, $status);
        $all = static fn (string $folder): string => (string) shell_exec('cd ' . escapeshellarg($folder) . " && find . -type f -not -path './.rilta/*' -not -name numbers.json -not -name project.json | sort | xargs sha256sum");
        self::assertSame($all($this->folder), $all("$this->folder-2"));
        self::assertGreaterThan(7, substr_count($all($this->folder), "\n"));
        // A set whose images are in the folder alone is made of them; a damaged one is told.
        $image = $this->files('files', '')[0];
        file_put_contents("$this->folder/$image", 'x', \FILE_APPEND);
        $sha = substr(basename($image), 0, 64);
        $this->change('sets/rock.json', "/$sha/", strrev($sha));
        self::assertSame(1, $this->commit()[0]);
    }

    public function testMistakesAreToldByFileAndPlaceAndNothingIsStored(): void
    {
        self::assertSame([1, "There is no project in $this->folder; bin/rilta checkout PROJECT FOLDER puts one there."], $this->commit());
        self::assertSame([1, 'There is no project "nowhere"; there are quay.'], $this->ran('checkout', ['project' => 'nowhere', 'folder' => $this->folder]));
        mkdir($this->folder);
        touch("$this->folder/letter.txt");
        self::assertSame([1, "$this->folder holds other files; give an empty folder, or one that a project was checked out to."], $this->checkout());
        unlink("$this->folder/letter.txt");
        $this->checkout();
        [$file] = $this->files('materials');
        $good = $this->written($file);
        $told = function (string $name, string $text): string {
            file_put_contents("$this->folder/$name", $text);
            [$status, $said] = $this->commit();
            self::assertSame(1, $status);

            return $said;
        };
        self::assertSame("The folder has mistakes.\n  $file: this is no JSON: Syntax error", $told($file, '{"format":'));
        self::assertSame("The folder has mistakes.\n  $file: expected an object", $told($file, '[]'));
        self::assertStringContainsString("  $file/layers/0/opacity: expected a number from 0 to 100 %", $told($file, str_replace('"opacity": 100', '"opacity": "much"', $good)));
        file_put_contents("$this->folder/$file", $good);
        self::assertStringContainsString('materials/Big Name.json: expected a name of lower-case letters, digits and -', $told('materials/Big Name.json', $good));
        unlink("$this->folder/materials/Big Name.json");
        self::assertStringContainsString('families.json/two: there is no map set sand', $told('families.json', '{"two":["rock","sand"]}'));
        self::assertStringContainsString('families.json: expected an object', $told('families.json', '[]'));
        file_put_contents("$this->folder/families.json", '{}');
        self::assertStringContainsString('sets/rock.json/maps/0/image: expected the name of a file in images/', $told('sets/rock.json', (string) preg_replace('/"image": "[0-9a-f]{64}"/', '"image": "' . str_repeat('0', 64) . '"', $this->written('sets/rock.json'), 1)));
        self::assertStringContainsString('numbers.json: expected a file', (function (): string {
            unlink("$this->folder/numbers.json");

            return $this->commit()[1];
        })());
        self::assertSame(1, $this->stored()['version']);
        self::assertEquals(2, self::at($this->api('GET', self::URL . '/sets'), 'sets', 0)['extent']);
    }

    /** Somebody else's copy of the folder, as version control has it. */
    public function testAFolderThatDoesNotKnowWhatItBeganWithTellsWhatDiffers(): void
    {
        $this->checkout();
        exec('rm -rf ' . escapeshellarg("$this->folder/.rilta"));
        self::assertSame([0, 'The server has all that the folder has.'], $this->commit());
        exec('rm -rf ' . escapeshellarg("$this->folder/.rilta"));
        [$file] = $this->files('materials');
        $this->change($file, '/"opacity": \d+/', '"opacity": 40');
        [$status, $told] = $this->commit();
        self::assertSame(1, $status);
        self::assertStringStartsWith("What this folder began with is not known, and it differs from the server:\n  $file/layers/ground/opacity: folder: 40, server: 100\n", $told);
        self::assertSame(0, $this->commit(['--take' => 'folder'])[0]);
        self::assertSame(40, self::at($this->stored(), 'document', 'layers', 0)['opacity']);
    }

    /** What somebody has put into the folder, and the server does not know yet, stays through a checkout. */
    public function testAFileOfOnesOwnStaysAndOneThatNothingNamesGoes(): void
    {
        $this->checkout();
        $own = hash('sha256', 'an image of ours');
        file_put_contents("$this->folder/files/$own.png", 'an image of ours');
        $old = $this->files('files', '')[0];
        $this->save(['opacity' => 60], 'Again');
        self::assertSame(0, $this->checkout()[0]);
        self::assertFileExists("$this->folder/files/$own.png");
        self::assertFileExists("$this->folder/$old");
        foreach ($this->files('sets') as $set) {
            unlink("$this->folder/$set");
        }
        self::assertSame(0, $this->commit()[0]);
        self::assertSame(["files/$own.png"], $this->files('files', ''));
    }

    public function testProfilesOfTheProjectAreFilesToo(): void
    {
        $own = ['format' => 'rilta-delivery/1', 'name' => 'tour', 'label' => 'Tour', 'help' => '', 'code' => ['c']];
        $this->api('PUT', self::URL . '/profiles', ['profile' => $own]);
        self::assertSame(0, $this->checkout()[0]);
        self::assertSame(['profiles/tour.json'], $this->files('profiles'));
        $this->change('profiles/tour.json', '/"Tour"/', '"The tour"');
        file_put_contents("$this->folder/profiles/other.json", json_encode(['name' => 'other'] + $own));
        self::assertSame(0, $this->commit()[0]);
        self::assertEqualsCanonicalizing(['The tour', 'Tour'], array_map(static fn (mixed $one): mixed => self::at($one, 'profile')['label'], \array_slice($this->api('GET', self::URL . '/profiles'), -2)));
        $this->change('profiles/tour.json', '/"c"/', '"fortran"');
        self::assertStringContainsString('profiles/tour.json/code/0: expected one of', $this->commit()[1]);
    }

    public function testWhatIsWornHasToBeThere(): void
    {
        $this->checkout();
        [$stage] = $this->files('stages');
        $this->change($stage, '/"seed": /', '"wears": "secnd", "seed": ');
        self::assertSame([1, "The folder has mistakes.\n  $stage/document/objects/0/wears: there is no material \"secnd\" in materials"], $this->commit());
        self::assertArrayNotHasKey('wears', self::at($this->api('GET', self::URL . '/stage'), 'document', 'objects', 0));
    }

    /** What two people add under one name are two things. */
    public function testWhatIsNewOnBothSidesOfOneNameIsKeptTwice(): void
    {
        $this->checkout();
        [$file] = $this->files('materials');
        $this->change($file, '/"name": "Rock"/', '"name": "Slate"', 'materials/slate.json');
        $this->api('POST', self::URL . '/materials', ['document' => ['name' => 'Slate'] + self::document()], 201);
        self::assertSame(0, $this->commit()[0]);
        self::assertSame([$file, 'materials/slate-2.json', 'materials/slate.json'], $this->files('materials'));
        self::assertCount(3, self::at($this->api('GET', self::URL . '/materials'), 'materials'));
    }

    /** Numbers of another project's things are nobody's. */
    public function testAFolderCannotReachIntoAnotherProject(): void
    {
        $this->checkout();
        $this->commit(['--as' => 'Another quay']);
        $theirs = self::int(self::at($this->api('GET', '/api/projects/another-quay/materials'), 'materials', 0)['id']);
        [$file] = $this->files('materials');
        $key = basename($file, '.json');
        $this->change('numbers.json', "/\"$key\": \d+/", "\"$key\": $theirs");
        $this->change($file, '/"name": "Rock"/', '"name": "Reached"');
        $this->commit(['--take' => 'folder']);
        self::assertNotSame('Reached', $this->api('GET', "/api/materials/$theirs")['name']);
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array{int, string}
     */
    protected function checkout(array $more = []): array
    {
        return $this->ran('checkout', ['project' => self::PROJECT, 'folder' => $this->folder] + $more);
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array{int, string}
     */
    protected function commit(array $more = []): array
    {
        return $this->ran('commit', ['folder' => $this->folder] + $more);
    }

    /**
     * @param array<string, mixed> $input
     *
     * @return array{int, string} its status, and what it says
     */
    protected function ran(string $command, array $input): array
    {
        $tester = new CommandTester((new Application($this->client->getKernel()))->find($command));
        $status = $tester->execute($input);
        if ($status !== 0) {
            // What is refused ends a command; here the next one runs in the same process.
            $this->service(ManagerRegistry::class)->resetManager();
        }

        return [$status, trim($tester->getDisplay(true), "\n")];
    }

    /** @return array<mixed> the material as the server has it */
    protected function stored(): array
    {
        return $this->api('GET', "/api/materials/$this->material");
    }

    /** @param array<string, mixed> $layer what is else of the first layer */
    protected function save(array $layer, string $name): void
    {
        $stored = $this->stored();
        $document = ['name' => $name] + self::at($stored, 'document');
        $document['layers'] = [$layer + self::at($document, 'layers', 0)];
        $this->api('PUT', "/api/materials/$this->material", ['document' => $document], 200, ['If-Match' => '"' . self::int($stored['version']) . '"', 'X-Rilta' => '1']);
    }

    protected function written(string $file): string
    {
        return (string) file_get_contents("$this->folder/$file");
    }

    /** @return list<string> */
    protected function files(string $kind, string $end = '.json'): array
    {
        return array_map(static fn (string $path): string => "$kind/" . basename($path), glob("$this->folder/$kind/*$end") ?: []);
    }

    /** As somebody changes a text. */
    protected function change(string $file, string $pattern, string $by, string $to = ''): void
    {
        $text = preg_replace($pattern, $by, $this->written($file), -1, $count);
        self::assertGreaterThan(0, $count, "$file has no $pattern.");
        file_put_contents("$this->folder/" . ($to ?: $file), $text);
    }
}
