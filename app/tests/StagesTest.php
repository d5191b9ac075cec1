<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Project;
use Rilta\App\Service\Parcels;
use Rilta\Core\Stage\Stage;

final class StagesTest extends ApiTestCase
{
    private const BASE = '/api/projects/' . self::PROJECT;

    /** @return list<mixed> */
    private function names(string $project = self::PROJECT): array
    {
        return array_column(self::at($this->api('GET', "/api/projects/$project/stages"), 'stages'), 'name');
    }

    public function testAProjectHasStagesAndAMaterialRemembersOnWhichItWasJudged(): void
    {
        $this->importSet();
        self::assertSame(['Small stage'], $this->names());
        $first = $this->api('GET', self::BASE . '/stage');
        $place = ['name' => 'From the sill', 'position' => [1, 2, 3], 'target' => [0, 0, 0]];
        $yard = $this->api('POST', self::BASE . '/stages', ['name' => ' Yard ', 'document' => ['format' => Stage::FORMAT, 'objects' => [], 'places' => [$place]]], 201);
        self::assertSame(['Yard', [$place]], [$yard['name'], self::at($yard, 'document', 'places')]);
        $copy = $this->api('POST', self::BASE . '/stages', ['name' => 'Yard, again', 'like' => $yard['id']], 201);
        self::assertSame($yard['document'], $copy['document']);
        $plain = $this->api('POST', self::BASE . '/stages', ['name' => 'Plain'], 201);
        self::assertCount(5, self::at($plain, 'document', 'objects'));
        self::assertSame(['Small stage', 'Yard', 'Yard, again', 'Plain'], $this->names());

        $id = self::int($this->api('POST', self::BASE . '/materials', ['document' => self::document()], 201)['id']);
        self::assertSame($first['id'], $this->api('GET', self::BASE . "/stage?material=$id")['id']);
        $this->api('PUT', "/api/materials/$id/stage", ['stage' => $yard['id']], 204);
        self::assertSame('Yard', $this->api('GET', self::BASE . "/stage?material=$id")['name']);
        $this->api('PUT', "/api/materials/$id/stage", ['stage' => 999999], 404);

        // Each is saved by itself.
        $number = self::int($yard['id']);
        $changed = ['format' => Stage::FORMAT, 'objects' => [], 'places' => []];
        self::assertSame(2, $this->api('PUT', self::BASE . "/stage?stage=$number", ['document' => $changed], headers: ['If-Match' => '"1"'])['version']);
        self::assertSame(2, $this->api('PUT', self::BASE . "/stage?stage=$number", ['document' => $changed], headers: ['If-Match' => '"2"'])['version'], 'nothing new is no version');
        self::assertSame('Yard', self::at($this->api('PUT', self::BASE . "/stage?stage=$number", ['document' => ['places' => [['position' => [7, 7, 7]] + $place]] + $changed], 412, ['If-Match' => '"1"']), 'theirs')['name']);
        self::assertSame([1, 1], [$this->api('GET', self::BASE . '/stage')['version'], $this->api('GET', self::BASE . '/stage?stage=' . self::int($copy['id']))['version']]);
        self::assertSame('Kiln', $this->api('PATCH', "/api/stages/$number", ['name' => 'Kiln'])['name']);
        $this->api('PATCH', "/api/stages/$number", ['name' => '  '], 422);

        // A material whose stage is gone is judged on the first; the last stage stays.
        $this->api('DELETE', "/api/stages/$number", status: 204);
        $this->service(EntityManagerInterface::class)->clear();
        self::assertSame($first['id'], $this->api('GET', self::BASE . "/stage?material=$id")['id']);
        $this->api('GET', self::BASE . "/stage?stage=$number", status: 404);
        foreach ([$copy, $plain] as $one) {
            $this->api('DELETE', '/api/stages/' . self::int($one['id']), status: 204);
        }
        self::assertSame('A project has at least one stage.', $this->api('DELETE', '/api/stages/' . self::int($first['id']), status: 422)['detail']);
    }

    public function testMistakesInPlacesAreNamed(): void
    {
        $place = ['name' => 'A', 'position' => [0, 0, 0], 'target' => [0, 0, 0]];
        foreach (['/places/0/name' => ['name' => ''], '/places/0/position' => ['position' => [0, 0]], '/places/0/target' => ['target' => null]] as $path => $wrong) {
            $problem = $this->api('POST', self::BASE . '/stages', ['name' => 'X', 'document' => ['format' => Stage::FORMAT, 'objects' => [], 'places' => [$wrong + $place]]], 422);
            self::assertSame($path, self::at($problem, 'problems', 0)['path']);
        }
        $this->api('POST', self::BASE . '/stages', ['name' => 'X', 'document' => ['format' => 'rilta-stage/7']], 422);
        $this->api('POST', self::BASE . '/stages', ['name' => 'X', 'like' => 424242], 404);
        self::assertSame(['Small stage'], $this->names());
    }

    public function testAProjectFileBringsAllStagesAndThoseOfOlderFiles(): void
    {
        $this->names();
        $this->api('POST', self::BASE . '/stages', ['name' => 'Yard', 'document' => ['format' => Stage::FORMAT, 'objects' => []]], 201);
        $project = $this->service(EntityManagerInterface::class)->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]);
        self::assertInstanceOf(Project::class, $project);
        $parcels = $this->service(Parcels::class);
        $path = $parcels->pack($project);
        self::assertSame(['Small stage', 'Yard'], $this->names($parcels->unpack((string) file_get_contents($path))->slug));
        // As they were when a project had one.
        $zip = new \ZipArchive();
        $zip->open($path);
        $contents = json_decode((string) $zip->getFromName('project.json'), true, 64, \JSON_THROW_ON_ERROR);
        self::assertIsArray($contents);
        unset($contents['stages'], $contents['meshes']);
        $zip->addFromString('project.json', json_encode(['name' => 'Older', 'stage' => ['format' => 'rilta-stage/1', 'objects' => []]] + $contents, \JSON_THROW_ON_ERROR));
        $zip->close();
        $older = $parcels->unpack((string) file_get_contents($path));
        unlink($path);
        self::assertSame(['Small stage'], $this->names($older->slug));
        self::assertSame([], self::at($this->api('GET', "/api/projects/$older->slug/stage"), 'document', 'objects'));
    }
}
