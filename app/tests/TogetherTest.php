<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\AccessToken;
use Rilta\App\Entity\Membership;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Role;
use Rilta\App\Entity\SignIn;
use Rilta\App\Service\Events;
use Rilta\App\Service\EventStream;
use Rilta\App\Service\Listener;
use Rilta\Core\Format\Merge;

/** Several people work on one material. */
final class TogetherTest extends ApiTestCase
{
    /** @return array{int, array<mixed>} the number of a material of two steps, and its document */
    private function material(): array
    {
        $document = ['lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => [['step' => 'origin', 'values' => ['seam' => 10]], ['step' => 'size', 'values' => ['u' => 2]]]]], 'layers' => [['id' => 'ground', 'name' => 'Ground', 'lane' => 'main', 'set' => '']]] + self::document();
        $made = $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => $document], 201);

        return [self::int($made['id']), self::at($made, 'document')];
    }

    /**
     * @param array<mixed> $document
     *
     * @return array<mixed>
     */
    private function save(int $id, int $from, array $document, bool $together = true, int $status = 200, string $key = ''): array
    {
        return $this->api('PUT', "/api/materials/$id", ['document' => $document, 'together' => $together], $status, ['If-Match' => "\"$from\""] + ($key === '' ? [] : ['Idempotency-Key' => $key]));
    }

    /**
     * @param array<mixed> $document
     *
     * @return array<mixed> with other values
     */
    private static function with(array $document, ?float $seam = null, ?float $size = null, ?string $name = null): array
    {
        /** @var array{name: string, lanes: array{array{steps: list<array{values: array<string, mixed>}>}}} $document */
        $document['name'] = $name ?? $document['name'];
        $document['lanes'][0]['steps'][0]['values']['seam'] = $seam ?? $document['lanes'][0]['steps'][0]['values']['seam'] ?? 0;
        $document['lanes'][0]['steps'][1]['values']['u'] = $size ?? $document['lanes'][0]['steps'][1]['values']['u'] ?? 0;

        return $document;
    }

    public function testOtherValuesComeTogetherThoughNobodySaysSo(): void
    {
        [$id, $document] = $this->material();
        $this->save($id, 1, self::with($document, seam: 30));
        $merged = $this->save($id, 1, self::with($document, size: 5, name: 'Both'), false);
        self::assertSame(3, $merged['version']);
        self::assertEquals(self::with($document, 30, 5, 'Both'), $merged['document']);
        self::assertSame('Both', $merged['name']);
    }

    public function testOfTheSameValueTheLaterCountsForThoseWhoWorkTogether(): void
    {
        [$id, $document] = $this->material();
        $this->save($id, 1, self::with($document, seam: 30, size: 7));
        // Whoever was away is asked.
        $theirs = $this->save($id, 1, self::with($document, seam: 40), false, 412);
        self::assertEquals(self::with($document, 30, 7), self::at($theirs, 'theirs', 'document'));
        self::assertEquals(self::with($document, 40, 7), $this->save($id, 1, self::with($document, seam: 40))['document']);
        // Whoever was first is told what they had.
        $events = $this->service(Connection::class)->fetchFirstColumn('SELECT data FROM event ORDER BY id');
        self::assertSame([2, 3], array_map(static fn (mixed $one): int => self::int(self::at(json_decode(self::text($one), true))['version']), $events));
        self::assertEquals([['path' => '/lanes/main/steps/origin/values/seam', 'was' => 30]], self::at(json_decode(self::text($events[1]), true), 'over'));
        self::assertArrayNotHasKey('over', self::at(json_decode(self::text($events[0]), true)));
    }

    public function testVersionsInPassingAreSeenAndMergedWithAndDoNotStay(): void
    {
        [$id, $document] = $this->material();
        $db = $this->service(Connection::class);
        $passes = fn (int $from, float $size): array => $this->api('PUT', "/api/materials/$id", ['document' => self::with($document, size: $size), 'together' => true, 'passing' => true], 200, ['If-Match' => "\"$from\""]);
        $kept = static fn (): array => $db->fetchFirstColumn('SELECT version FROM revision WHERE material_id = ? ORDER BY version', [$id]);
        $listed = fn (): array => array_column($this->api('GET', "/api/materials/$id/revisions"), 'version');
        foreach ([2, 3, 4] as $version) {
            self::assertSame($version, $passes($version - 1, $version + 1.0)['version']);
        }
        // Everybody sees it as it goes; the history has what it was, and where it stands.
        self::assertSame([[4, 1], [1, 2, 3, 4]], [$listed(), $kept()]);
        // Somebody else began with a version in passing.
        $merged = $this->save($id, 3, self::with($document, seam: 55, size: 4.0));
        self::assertSame(5, $merged['version']);
        self::assertEquals([55.0, 5.0], [self::at($merged, 'document', 'lanes', 0, 'steps', 0, 'values')['seam'], self::at($merged, 'document', 'lanes', 0, 'steps', 1, 'values')['u']]);
        self::assertSame([5, 1], $listed());
        // It ends with what was seen last: that stays, under its number.
        self::assertSame(6, $this->api('PUT', "/api/materials/$id", ['document' => self::with($document, seam: 55, size: 6.0), 'together' => true, 'passing' => true], 200, ['If-Match' => '"5"'])['version']);
        self::assertSame(6, $this->save($id, 6, self::with($document, seam: 55, size: 6.0))['version']);
        self::assertSame([6, 5, 1], $listed());
        // Soon nobody begins with the others any more; what was named or approved stays.
        $db->executeStatement("UPDATE revision SET saved_at = saved_at - INTERVAL 5 MINUTE, name = IF(version = 3, 'This one', name) WHERE material_id = ?", [$id]);
        $this->save($id, 6, self::with($document, size: 7.0));
        self::assertSame([1, 3, 5, 6, 7], $kept());
    }

    public function testASaveWhoseAnswerWasLostIsOneThoughOthersHaveSavedSince(): void
    {
        [$id, $document] = $this->material();
        $this->save($id, 1, self::with($document, seam: 30), key: 'mine-0001');
        $this->save($id, 2, self::with($document, seam: 50), key: 'hers-0001');
        $again = $this->save($id, 1, self::with($document, seam: 30), key: 'mine-0001');
        self::assertSame(3, $again['version']);
        self::assertEquals(self::with($document, 50), $again['document']);
    }

    public function testWhatBeganLongAgoIsAConflict(): void
    {
        [$id, $document] = $this->material();
        $this->save($id, 1, self::with($document, seam: 30));
        $this->service(Connection::class)->executeStatement('DELETE FROM revision WHERE version = 1');
        $this->service(EntityManagerInterface::class)->clear();
        $this->save($id, 1, self::with($document, size: 5), true, 412);
    }

    /**
     * Eight work at once, as browsers do, each with what it has heard last: answers are lost and saves come again. In the end all have the same,
     * and nobody's values are lost but to a later one. RILTA_TOGETHER=long has each of them do 2,000 changes.
     */
    public function testEightWorkAtOnceAndEndWithTheSame(): void
    {
        mt_srand(81);
        $document = ['parameters' => array_map(static fn (int $i): array => ['id' => "p$i", 'name' => "P $i", 'kind' => 'number', 'min' => 0, 'max' => 1000000, 'step' => 1, 'value' => 0], range(0, 39))] + self::document();
        $made = $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => $document], 201);
        $id = self::int($made['id']);
        $clients = array_fill(0, 8, ['version' => 1, 'base' => $made['document'], 'mine' => $made['document'], 'keys' => 0]);
        // Each has values of its own, and some that all of them set.
        $last = [];
        $rounds = 8 * (getenv('RILTA_TOGETHER') === 'long' ? 2000 : 40);
        for ($i = 1; $i <= $rounds; ++$i) {
            $who = mt_rand(0, 7);
            $client = $clients[$who];
            $which = mt_rand(0, 3) === 0 ? mt_rand(32, 39) : 4 * $who + mt_rand(0, 3);
            $mine = self::at($client, 'mine');
            /** @var array{parameters: list<array{value: int}>} $mine */
            $mine['parameters'][$which]['value'] = $i;
            $client['mine'] = $mine;
            if ($which < 32) {
                $last[$which] = $i;
            }
            if (mt_rand(0, 2) > 0) {
                $key = "client-$who-" . ++$client['keys'];
                $sent = $client['mine'];
                $tries = mt_rand(0, 3) === 0 ? 2 : 1;
                $stored = [];
                for ($try = 0; $try < $tries; ++$try) {
                    // A lost answer: the same comes again, though others may have stored meanwhile.
                    $stored = $this->save($id, $client['version'], $sent, key: $key);
                }
                // What was stored by others has been merged in; what was changed here since stays.
                $client = ['version' => self::int($stored['version']), 'base' => $stored['document'], 'mine' => self::merged($sent, $stored['document'], $client['mine'])] + $client;
            } elseif (mt_rand(0, 1) === 0) {
                // It hears of the others.
                $stored = $this->api('GET', "/api/materials/$id");
                $client = ['version' => self::int($stored['version']), 'base' => $stored['document'], 'mine' => self::merged($client['base'], $stored['document'], $client['mine'])] + $client;
            }
            $clients[$who] = $client;
        }
        foreach ($clients as $who => $client) {
            $stored = $this->save($id, self::int($client['version']), self::at($client, 'mine'), key: "client-$who-last");
            $clients[$who]['mine'] = $stored['document'];
        }
        $end = $this->api('GET', "/api/materials/$id")['document'];
        foreach ($last as $which => $value) {
            self::assertEquals($value, self::at($end, 'parameters', $which)['value'], "value $which, which nobody else has set");
        }
        foreach (range(32, 39) as $which) {
            self::assertLessThanOrEqual($rounds, self::at($end, 'parameters', $which)['value']);
        }
        self::assertGreaterThan(20, \count($last));
    }

    private static function merged(mixed $base, mixed $theirs, mixed $mine): mixed
    {
        $said = static fn (mixed $value): mixed => json_decode(json_encode($value, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));

        return json_decode(json_encode((new Merge($said($base), $said($theirs), $said($mine), 2))->merged, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true);
    }

    public function testWhoeverListensHearsWhatHappensAndWhoIsThere(): void
    {
        [$id] = $this->material();
        $stream = new EventStream($this->service(Connection::class));
        $heard = ['a' => '', 'b' => '', 'c' => ''];
        $join = static function (string $name, int $material, int $after = 0, string $project = self::PROJECT) use ($stream, &$heard): bool {
            return $stream->join($name, new Listener($project, $material, \ord($name), strtoupper($name), "page-$name", 0, 0, static function (string $text) use (&$heard, $name): void {
                $heard[$name] .= $text;
            }, static fn () => null), $after);
        };
        self::assertFalse($join('x', $id, project: 'nowhere'));
        self::assertTrue($join('a', $id));
        self::assertSame("retry: 1000\n\nevent: company\ndata: [{\"person\":97,\"who\":\"A\",\"page\":\"page-a\",\"eye\":null}]\n\n", $heard['a']);
        $join('b', $id);
        $join('c', 0);
        self::assertStringContainsString('"who":"A","page":"page-a","eye":null},{"person":98,"who":"B","page":"page-b","eye":null}', $heard['a']);
        self::assertStringNotContainsString('company', $heard['c']);
        // Where one of them looks, the others hear within half a second; nobody says it for another.
        $db = $this->service(Connection::class);
        $db->executeStatement("UPDATE presence SET person = 0 WHERE page = 'page-a'");
        $this->api('PUT', "/api/materials/$id/eye", ['page' => 'page-a', 'eye' => [1, 2.5, -3.00049, 0, 0, 0]], 204);
        $this->api('PUT', "/api/materials/$id/eye", ['page' => 'page-b', 'eye' => [9, 9, 9, 9, 9, 9]], 204);
        $stream->tick(990.0);
        self::assertStringContainsString('"page":"page-a","eye":[1,2.5,-3,0,0,0]}', $heard['b']);
        self::assertStringNotContainsString('[9,', implode('', $heard));
        $this->api('PUT', "/api/materials/$id/eye", ['page' => 'page-a', 'eye' => null], 204);
        $stream->tick(990.5);
        self::assertStringEndsWith('"page":"page-a","eye":null},{"person":98,"who":"B","page":"page-b","eye":null}]' . "\n\n", $heard['b']);
        self::assertSame(['/eye/1'], array_column(self::at($this->api('PUT', "/api/materials/$id/eye", ['page' => 'page-a', 'eye' => [1, 'x', 3, 4, 5, 6]], 422), 'problems'), 'path'));
        $db->executeStatement("UPDATE presence SET person = 97 WHERE page = 'page-a'");
        $heard = ['a' => '', 'b' => '', 'c' => ''];
        $entities = $this->service(EntityManagerInterface::class);
        $project = $entities->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]) ?? throw new \LogicException('No project.');
        $other = new Project('salt', 'Salt');
        $entities->persist($other);
        $tell = function (Project $of, int $version) use ($entities, $id): void {
            $this->service(Events::class)->tell($of, 'material', $id, ['version' => $version]);
            $entities->flush();
        };
        $tell($project, 2);
        $tell($other, 9);
        $stream->tick(1000.0);
        $stream->tick(1000.1);
        // Once, and of their project alone.
        self::assertSame(1, preg_match_all('/^id: (\d+)\nevent: material\ndata: {"target":' . $id . ',"version":2}\n\n/m', $heard['c'], $ids));
        self::assertSame(1, substr_count($heard['b'], 'event: material'));
        self::assertStringNotContainsString('"version":9', implode('', $heard));
        // One that was given its number earlier, and ended later.
        $this->service(Connection::class)->executeStatement('INSERT INTO event (id, at, kind, target, data, project_id) VALUES (?, UTC_TIMESTAMP(), ?, ?, ?, ?)', [(int) $ids[1][0] - 1, 'material', $id, '{"version":1}', $project->id()]);
        $stream->tick(1000.2);
        self::assertStringContainsString('"version":1', $heard['c']);
        // A machine whose clock is behind or ahead of the others is heard like all: at once, and once.
        $heard['c'] = '';
        foreach ([-600 => 77, 600 => 78] as $off => $version) {
            $this->service(Connection::class)->executeStatement('INSERT INTO event (at, kind, target, data, project_id) VALUES (UTC_TIMESTAMP() + INTERVAL ? SECOND, ?, ?, ?, ?)', [$off, 'material', $id, json_encode(['version' => $version]), $project->id()]);
        }
        for ($t = 1000.3; $t < 1120; $t += 7) {
            $stream->tick($t);
        }
        self::assertSame(['"version":77', '"version":78'], preg_match_all('/"version":7\d/', $heard['c'], $versions) > 0 ? $versions[0] : []);
        // Whoever was away hears what they missed; whoever has gone is gone.
        $stream->leave('b');
        self::assertStringEndsWith("event: company\ndata: [{\"person\":97,\"who\":\"A\",\"page\":\"page-a\",\"eye\":null}]\n\n", $heard['a']);
        $tell($project, 3);
        $heard['b'] = '';
        $join('b', $id, (int) $ids[1][0]);
        self::assertStringContainsString('"version":3', $heard['b']);
        self::assertStringNotContainsString('"version":2', $heard['b']);
        // A process that was killed says no more that somebody is there.
        $this->service(Connection::class)->executeStatement("UPDATE presence SET seen = UTC_TIMESTAMP() - INTERVAL 20 SECOND WHERE id = 'b'");
        $dead = new EventStream($this->service(Connection::class));
        $dead->tick(100.0);
        self::assertSame(['a'], $this->service(Connection::class)->fetchFirstColumn('SELECT id FROM presence'));
    }

    public function testNobodyHearsWhatIsNotTheirs(): void
    {
        [$id] = $this->material();
        $entities = $this->service(EntityManagerInterface::class);
        $project = $entities->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]) ?? throw new \LogicException('No project.');
        $other = new Project('salt', 'Salt');
        $entities->persist($other);
        $listeners = [];
        foreach (['stays', 'signed out', 'no member', 'token', 'token taken back'] as $who) {
            $person = new Person(str_replace(' ', '-', $who) . '@ebbwater.example', $who);
            $signIn = new SignIn($person, hash('sha256', $who), '', '');
            $token = new AccessToken($person, 'A', hash('sha256', "t $who"), ['read'], new \DateTimeImmutable('+1 day'));
            $membership = new Membership($who === 'no member' ? $other : $project, $person, Role::Viewer);
            array_map($entities->persist(...), [$person, $signIn, $token, $membership]);
            $entities->flush();
            $byToken = str_starts_with($who, 'token');
            $listeners[$who] = [$person->id(), $byToken ? 0 : $signIn->id(), $byToken ? $token->id() : 0];
            match ($who) {
                'signed out' => $entities->remove($signIn),
                'token taken back' => $entities->remove($token),
                default => null,
            };
        }
        $entities->flush();
        $stream = new EventStream($this->service(Connection::class));
        $ended = [];
        $heard = '';
        foreach ($listeners as $who => [$person, $signIn, $token]) {
            $stream->join(md5($who), new Listener(self::PROJECT, $id, $person, $who, 'page', $signIn, $token, static fn () => null, static function () use (&$ended, $who): void {
                $ended[] = $who;
            }), 0);
        }
        // Whoever listens to one project learns nothing of who has a material of another open, and is not seen there.
        $stream->join('stranger', new Listener('salt', $id, 0, 'Stranger', 'page', 0, 0, static function (string $text) use (&$heard): void {
            $heard .= $text;
        }, static fn () => null), 0);
        $stream->tick(1000.0);
        self::assertSame(['signed out', 'no member', 'token taken back'], $ended);
        self::assertStringNotContainsString('company', $heard);
        self::assertNotContains('Stranger', $this->service(Connection::class)->fetchFirstColumn('SELECT who FROM presence'));
    }

    public function testStagesAreMergedObjectByObjectAndValueByValue(): void
    {
        $url = '/api/projects/' . self::PROJECT . '/stage';
        $stage = $this->api('GET', $url);
        self::assertGreaterThan(1, \count(self::at($stage, 'document', 'objects')));
        $with = static function (string $value, mixed $mine, bool $without = false) use ($stage): array {
            /** @var array{objects: list<array<string, mixed>>} $document */
            $document = self::at($stage, 'document');
            $document['objects'][0][$value] = $mine;

            return ['objects' => $without ? \array_slice($document['objects'], 0, -1) : $document['objects']] + $document;
        };
        $save = fn (array $document, int $from, bool $together, int $status = 200, string $key = ''): array => $this->api('PUT', $url, ['document' => $document, 'together' => $together], $status, ['If-Match' => "\"$from\""] + ($key === '' ? [] : ['Idempotency-Key' => $key]));
        $from = self::int($stage['version']);
        $save($with('position', [1, 2, 3]), $from, true, key: 'first-of-two');
        // Other values of the same object, and an object less: nobody has to say anything.
        $merged = $save($with('turn', [0, 45, 0], true), $from, false);
        self::assertSame($from + 2, $merged['version']);
        self::assertEquals([[1, 2, 3], [0, 45, 0]], [self::at($merged, 'document', 'objects', 0)['position'], self::at($merged, 'document', 'objects', 0)['turn']]);
        self::assertCount(\count(self::at($stage, 'document', 'objects')) - 1, self::at($merged, 'document', 'objects'));
        // The same value: whoever was away is asked, the later of two who hear each other counts, and the earlier is told.
        $save($with('position', [9, 9, 9]), $from, false, 412);
        self::assertEquals([9, 9, 9], self::at($save($with('position', [9, 9, 9]), $from, true), 'document', 'objects', 0)['position']);
        self::assertSame($from + 3, $save($with('position', [1, 2, 3]), $from, true, key: 'first-of-two')['version'], 'a save that is sent twice is one');
        $told = array_map(static fn (mixed $one): array => self::at(json_decode(self::text($one), true)), $this->service(Connection::class)->fetchFirstColumn("SELECT data FROM event WHERE kind = 'stage' ORDER BY id"));
        self::assertSame([$from + 1, $from + 2, $from + 3], array_column($told, 'version'));
        $object = self::text(self::at($stage, 'document', 'objects', 0)['id']);
        self::assertEquals([['path' => "/objects/$object/position", 'was' => [1, 2, 3]]], $told[2]['over']);
        // Who began with what is kept no longer is asked.
        $this->service(Connection::class)->executeStatement('DELETE FROM kept_version WHERE version = ?', [$from]);
        $save($with('scale', [2, 2, 2]), $from, true, 412);
    }

    public function testRecipesAreMerged(): void
    {
        $recipe = ['format' => 'rilta-recipe/1', 'name' => 'Dyke', 'size' => 64, 'extent' => 3.0, 'ingredients' => [['id' => 'ramp', 'name' => 'Ramp', 'source' => 'waves', 'values' => ['across' => 1, 'down' => 0]]], 'outputs' => [['role' => 'height', 'of' => 'ramp']]];
        $made = $this->api('POST', '/api/projects/' . self::PROJECT . '/recipes', ['document' => $recipe], 201);
        $id = self::int($made['id']);
        /** @var array{ingredients: list<array<string, mixed>>} $document */
        $document = self::at($made, 'document');
        $with = static function (array $more, array $values = []) use ($document): array {
            /** @var array<string, mixed> $were */
            $were = $document['ingredients'][0]['values'];

            return $more + ['ingredients' => [['values' => $values + $were] + $document['ingredients'][0]]] + $document;
        };
        $save = fn (array $mine, bool $together, int $status = 200): array => $this->api('PUT', "/api/recipes/$id", ['document' => $mine, 'together' => $together], $status, ['If-Match' => '"1"']);
        $save($with([], ['across' => 3]), true);
        $merged = $save($with(['name' => 'Dyke at night'], ['down' => 2]), false);
        self::assertSame([3, 'Dyke at night'], [$merged['version'], $merged['name']]);
        self::assertEquals([3, 2], [self::at($merged, 'document', 'ingredients', 0, 'values')['across'], self::at($merged, 'document', 'ingredients', 0, 'values')['down']]);
        $save($with([], ['across' => 5]), false, 412);
        self::assertEquals(5, self::at($save($with([], ['across' => 5]), true), 'document', 'ingredients', 0, 'values')['across']);
        self::assertSame(['stage' => 0, 'recipe' => 3], array_map(fn (string $kind): int => self::int($this->service(Connection::class)->fetchOne('SELECT COUNT(*) FROM event WHERE kind = ?', [$kind])), ['stage' => 'stage', 'recipe' => 'recipe']));
    }
}
