<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\Core\Material\Material;

/** Code that was made before is kept for as long as the map library is what it was; documents of older versions come out as of today. */
final class KeptCodeTest extends ApiTestCase
{
    private function edition(): string
    {
        $edition = $this->service(Connection::class)->fetchOne('SELECT edition FROM project WHERE slug = ?', [self::PROJECT]);

        return \is_string($edition) ? $edition : self::fail('A project has an edition.');
    }

    public function testTheEditionOfTheLibraryIsAnotherAfterEveryChangeOfIt(): void
    {
        $before = $this->edition();
        $this->importSet();
        $first = $this->edition();
        self::assertNotSame($before, $first, 'a set has come');
        $this->lower(self::document());
        $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => self::document()], 201);
        self::assertSame($first, $this->edition(), 'materials are none of the library');
        $this->importSet('gravel');
        self::assertNotSame($first, $this->edition());
    }

    public function testCodeOfAMissingSetIsMadeAnewOnceTheSetIsThere(): void
    {
        $lowered = $this->lower(self::document());
        self::assertSame(['/layers/0/set'], array_column(self::at($lowered, 'problems'), 'path'));
        self::assertSame($lowered, $this->lower(self::document()), 'asked again, it is the same');
        $this->importSet();
        $lowered = $this->lower(self::document());
        self::assertSame([], $lowered['problems']);
        self::assertNotSame([], $lowered['maps']);
    }

    public function testTheAnswerSaysHowLongItTook(): void
    {
        $this->importSet();
        $this->lower(self::document());
        self::assertMatchesRegularExpression('/^lower;dur=\d+\.\d$/', (string) $this->client->getResponse()->headers->get('Server-Timing'));
    }

    public function testCodeIsTheSameWhereImagesAloneDiffer(): void
    {
        $this->importSet();
        $this->importSet('gravel');
        $rock = $this->lower(self::document());
        $gravel = $this->lower(['layers' => [['id' => 'ground', 'name' => 'Ground', 'lane' => 'main', 'set' => 'gravel']]] + self::document());
        self::assertSame($rock['code'], $gravel['code']);
        self::assertNotSame($rock['hash'], $gravel['hash']);
        self::assertSame(['/layers/0'], $gravel['shares']);
    }

    public function testAnOldDocumentComesOutAsOfToday(): void
    {
        $this->importSet();
        $old = ['format' => 'rilta-material/1', 'parameters' => [['id' => 'wide', 'name' => 'Wide', 'value' => 2.0]]] + self::document();
        $made = $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => $old], 201);
        self::assertSame([Material::FORMAT, 'number'], [self::at($made, 'document')['format'], self::at($made, 'document', 'parameters', 0)['kind']]);

        $id = \is_int($made['id']) ? $made['id'] : self::fail('A material has a number.');

        // One that was stored before, mistakes and all.
        $document = self::at($made, 'document');
        $parameter = array_diff_key(self::at($document, 'parameters', 0), ['kind' => '']);
        $stored = json_encode(['format' => 'rilta-material/1', 'parameters' => [$parameter], 'layers' => [['lane' => 'gone', 'faces' => new \stdClass()] + self::at($document, 'layers', 0)]] + $document, \JSON_THROW_ON_ERROR);
        $this->service(Connection::class)->executeStatement('UPDATE material SET document = ? WHERE id = ?', [$stored, $id]);
        $this->service(Connection::class)->executeStatement('UPDATE revision SET document = ? WHERE material_id = ?', [$stored, $id]);
        $this->service(EntityManagerInterface::class)->clear();
        $material = $this->api('GET', "/api/materials/$id");
        self::assertSame(Material::FORMAT, self::at($material, 'document')['format']);
        self::assertSame('number', self::at($material, 'document', 'parameters', 0)['kind']);
        self::assertSame('gone', self::at($material, 'document', 'layers', 0)['lane'], 'mistakes are kept');
        self::assertSame(['/layers/0/lane'], array_column(self::at($material, 'problems'), 'path'));
        $revision = self::at($this->api('GET', "/api/materials/$id/revisions"), 0);
        $revision = \is_int($revision['id']) ? $revision['id'] : self::fail('A revision has a number.');
        self::assertSame(Material::FORMAT, self::at($this->api('GET', "/api/revisions/$revision"), 'document')['format']);
    }
}
