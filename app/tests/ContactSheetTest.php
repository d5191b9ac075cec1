<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Project;
use Rilta\App\Service\Blobs;
use Rilta\App\Service\Collection;
use Rilta\App\Service\Quota;
use Rilta\Core\Format\Png;

final class ContactSheetTest extends ApiTestCase
{
    public function testASheetIsKeptWithItsMaterialUnderItsNameAndDate(): void
    {
        $url = $this->material();
        self::assertSame([], $this->api('GET', $url));
        $png = Png::bytes(3, 2, 3, str_repeat("\x10\x80\xF0", 6));
        $sheet = $this->send("$url?name=Before%20review", $png, 201);
        self::assertSame(['Before review', 3, 2], [$sheet['name'], $sheet['width'], $sheet['height']]);
        self::assertLessThan(60, abs(time() - (int) strtotime(self::text($sheet['made']))));
        $second = $this->send("$url?name=After", Png::bytes(1, 1, 3, 'abc'), 201);
        self::assertSame(['After', 'Before review'], array_column($this->api('GET', $url), 'name'), 'the latest first');
        $this->client->request('GET', self::text($sheet['url']));
        self::assertSame($png, $this->client->getResponse()->getContent());
        self::assertSame('Reviewed', $this->api('PATCH', '/api/contact-sheets/' . self::int($sheet['id']), ['name' => ' Reviewed '])['name']);
        $this->api('PATCH', '/api/contact-sheets/' . self::int($sheet['id']), ['name' => ' '], 422);
        $this->client->request('DELETE', '/api/contact-sheets/' . self::int($second['id']), server: ['HTTP_X_RILTA' => '1']);
        self::assertSame(204, $this->client->getResponse()->getStatusCode());
        self::assertSame(['Reviewed'], array_column($this->api('GET', $url), 'name'));
    }

    public function testWhatIsNoPictureIsSaidAndNothingIsKept(): void
    {
        $url = $this->material();
        $this->send("$url?name=A", 'no picture', 422);
        $this->send("$url?name=A", substr(Png::bytes(40, 40, 3, random_bytes(4800)), 0, 900), 422);
        $this->send($url, Png::bytes(1, 1, 3, 'abc'), 400);
        $this->send("$url?name=A", Png::bytes(1, 1, 3, 'abc'), 400, 'image/jpeg');
        self::assertSame([], $this->api('GET', $url));
    }

    /** The collection leaves it alone; the project's room counts it. */
    public function testItsPictureStaysAndTakesRoom(): void
    {
        $url = $this->material();
        $project = $this->service(EntityManagerInterface::class)->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]) ?? self::fail('There is a project.');
        $before = $this->service(Quota::class)->of($project)['bytes'];
        $png = Png::bytes(20, 20, 3, random_bytes(1200));
        $this->send("$url?name=A", $png, 201);
        self::assertSame(\strlen($png), $this->service(Quota::class)->of($project)['bytes'] - $before);
        $this->service(Collection::class)->collect(now: new \DateTimeImmutable('+3 days'));
        self::assertSame($png, $this->service(Blobs::class)->get(hash('sha256', $png), 'A'));
    }

    private function material(): string
    {
        $this->importSet();
        $made = $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['document' => self::document()], 201);

        return '/api/materials/' . self::int($made['id']) . '/contact-sheets';
    }

    /** @return array<mixed> */
    private function send(string $url, string $body, int $status, string $type = 'image/png'): array
    {
        $this->client->request('POST', $url, server: ['CONTENT_TYPE' => $type, 'HTTP_X_RILTA' => '1'], content: $body);
        $response = $this->client->getResponse();
        self::assertSame($status, $response->getStatusCode(), (string) $response->getContent());
        $answer = json_decode((string) $response->getContent(), true);

        return \is_array($answer) ? $answer : [];
    }
}
