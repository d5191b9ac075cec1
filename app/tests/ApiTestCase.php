<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Validator;
use Rilta\App\Entity\Project;
use Rilta\App\Service\Parcels;
use Rilta\Core\Format\Png;
use Rilta\Core\Material\Material;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Bundle\FrameworkBundle\KernelBrowser;
use Symfony\Bundle\FrameworkBundle\Test\WebTestCase;
use Symfony\Component\Console\Input\ArrayInput;
use Symfony\Component\Console\Output\BufferedOutput;
use Symfony\Component\HttpFoundation\File\UploadedFile;
use Symfony\Component\HttpKernel\KernelInterface;

/** Requests to the application on a real MariaDB; every answer is held against the OpenAPI document. */
abstract class ApiTestCase extends WebTestCase
{
    protected const PROJECT = 'quay';

    protected KernelBrowser $client;
    private static ?Validator $validator = null;

    /** @var array<mixed>|null */
    private static ?array $openapi = null;

    protected function setUp(): void
    {
        $this->client = self::createClient(server: ['HTTP_HOST' => '127.0.0.1']);
        $this->client->disableReboot();
        $entities = $this->service(EntityManagerInterface::class);
        $entities->persist(new Project(self::PROJECT, 'Quay', 'A project for tests.'));
        $entities->flush();
    }

    /**
     * @template T of object
     *
     * @param class-string<T> $class
     *
     * @return T
     */
    protected function service(string $class): object
    {
        $service = self::getContainer()->get($class);
        self::assertInstanceOf($class, $service);

        return $service;
    }

    /** @return array<mixed> the code of a document in the test project */
    protected function lower(mixed $document): array
    {
        return $this->api('POST', '/api/projects/' . self::PROJECT . '/lower', ['document' => $document]);
    }

    /**
     * @param array<string, string> $headers
     *
     * @return array<mixed>
     */
    protected function api(string $method, string $url, mixed $body = null, int $status = 200, array $headers = []): array
    {
        $server = ['CONTENT_TYPE' => 'application/json'];
        foreach ($headers as $name => $value) {
            $server['HTTP_' . strtoupper(str_replace('-', '_', $name))] = $value;
        }
        $this->client->request($method, $url, server: $server, content: $body === null ? '' : json_encode($body, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));

        return $this->answer($method, $url, $status);
    }

    /** @return array<mixed> */
    protected function upload(string $name, string $bytes, int $status = 201): array
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'rilta-upload');
        file_put_contents($file, $bytes);
        $this->client->request('POST', '/api/projects/' . self::PROJECT . '/uploads', files: ['file' => new UploadedFile($file, $name, test: true)], server: ['HTTP_X_RILTA' => '1']);
        unlink($file);

        return $this->answer('POST', '/api/projects/' . self::PROJECT . '/uploads', $status);
    }

    /**
     * @param array<string, string> $files bytes by name
     *
     * @return array<mixed>
     */
    protected function bring(array $files, string $replaces = '', int $status = 201, string $what = 'meshes'): array
    {
        $url = '/api/projects/' . self::PROJECT . "/$what";
        $sent = [];
        foreach ($files as $name => $bytes) {
            $path = (string) tempnam(sys_get_temp_dir(), 'rilta-mesh');
            file_put_contents($path, $bytes);
            $sent[] = new UploadedFile($path, (string) $name, test: true);
        }
        $this->client->request('POST', $url, $replaces === '' ? [] : ['replaces' => $replaces], ['files' => $sent], ['HTTP_X_RILTA' => '1']);
        array_map(static fn (UploadedFile $file): bool => @unlink($file->getPathname()), $sent);

        return $this->answer('POST', $url, $status);
    }

    /** @return string what objects of a stage call it */
    protected function ownMesh(string $file, string $bytes): string
    {
        return self::text(self::at($this->bring([$file => $bytes]), 'meshes', 0)['name']);
    }

    /**
     * What of an upload is sent back to keep it.
     *
     * @return array<string, mixed>
     */
    protected function looked(string $name, string $bytes, float $extent = 1.5): array
    {
        return ['extent' => $extent] + array_intersect_key(self::at($this->upload($name, $bytes), 'maps', 0), array_flip(['file', 'sha256', 'set', 'role', 'encoding', 'inverted', 'channels']));
    }

    /**
     * Uploads and keeps a set of four small maps.
     *
     * @return array<mixed> the set
     */
    protected function importSet(string $set = 'rock', int $size = 8): array
    {
        $maps = [];
        foreach (['basecolor' => "\xC8\x64\x32", 'normal' => "\x80\x80\xFF", 'roughness' => "\x99", 'ao' => "\xFF"] as $word => $texel) {
            $maps[] = $this->looked("{$set}_$word.png", Png::bytes($size, $size, \strlen($texel), str_repeat($texel, $size * $size)), 2.0);
        }
        $kept = $this->api('POST', '/api/projects/' . self::PROJECT . '/sets', ['maps' => $maps], 201);
        self::assertSame([], $kept['refused']);

        return self::at($kept, 'sets', 0);
    }

    /** @return array<string, mixed> */
    protected static function document(string $set = 'rock', string $name = 'Rock'): array
    {
        return [
            'format' => Material::FORMAT,
            'name' => $name,
            'lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => [
                ['step' => 'origin', 'values' => ['seam' => 20.0]],
                ['step' => 'size', 'values' => ['u' => 2.0]],
            ]]],
            'layers' => [['id' => 'ground', 'name' => 'Ground', 'lane' => 'main', 'set' => $set]],
        ];
    }

    /**
     * What lies at a place of decoded JSON.
     *
     * @return array<mixed>
     */
    protected static function at(mixed $data, string|int ...$keys): array
    {
        foreach ($keys as $key) {
            self::assertIsArray($data);
            self::assertArrayHasKey($key, $data);
            $data = $data[$key];
        }
        self::assertIsArray($data);

        return $data;
    }

    /** Works off all that waits. */
    protected function drain(): void
    {
        $this->work('--once', true);
    }

    /**
     * A worker: takes what waits, or so much of it.
     *
     * @return int messages that it has taken
     */
    protected function work(string $option = '--limit', int|bool $value = 1): int
    {
        $application = new Application($this->service(KernelInterface::class));
        $output = new BufferedOutput();
        // What is not there cannot be taken; a worker would wait for it.
        $application->doRun(new ArrayInput(['command' => 'work', '--once' => true, $option => $value]), $output);
        $this->service(EntityManagerInterface::class)->clear();

        return (int) $output->fetch();
    }

    /** All that has to wait for a moment has waited. */
    protected function wait(): void
    {
        $this->service(Connection::class)->executeStatement("UPDATE queue SET available_at = '2000-01-01', delivered_at = NULL");
    }

    protected static function int(mixed $value): int
    {
        self::assertIsInt($value);

        return $value;
    }

    protected static function text(mixed $value): string
    {
        self::assertIsString($value);

        return $value;
    }

    /** @return array<mixed> */
    protected function answer(string $method, string $url, int $status): array
    {
        $response = $this->client->getResponse();
        $content = (string) $response->getContent();
        self::assertSame($status, $response->getStatusCode(), mb_substr($content, 0, 600));
        if (!str_contains((string) $response->headers->get('Content-Type'), 'json')) {
            return [];
        }
        self::assertSame($status >= 400 ? 'application/problem+json' : 'application/json', $response->headers->get('Content-Type'));
        $this->conforms($method, $url, $status, $content);
        $data = json_decode($content, true, 512, \JSON_THROW_ON_ERROR);
        self::assertIsArray($data);

        return $data;
    }

    private function conforms(string $method, string $url, int $status, string $content): void
    {
        self::$openapi ??= (array) json_decode((string) file_get_contents(\dirname(__DIR__) . '/config/openapi.json'), true, 512, \JSON_THROW_ON_ERROR);
        if (self::$validator === null) {
            self::$validator = new Validator();
            self::$validator->resolver()?->registerRaw((string) file_get_contents(\dirname(__DIR__) . '/config/openapi.json'), 'rilta://api');
        }
        foreach (self::at(self::$openapi, 'paths') as $template => $operations) {
            $pattern = '#^' . preg_replace('/\\\\\{[a-z]+\\\\\}/i', '[^/]+', preg_quote((string) $template, '#')) . '$#';
            if (preg_match($pattern, explode('?', $url)[0]) !== 1) {
                continue;
            }
            $responses = self::at($operations, strtolower($method), 'responses');
            $key = isset($responses[$status]) ? (string) $status : 'default';
            $pointer = implode('/', array_map(
                static fn (string $part): string => rawurlencode(str_replace(['~', '/'], ['~0', '~1'], $part)),
                ['paths', (string) $template, strtolower($method), 'responses', $key, 'content', $status >= 400 ? 'application/problem+json' : 'application/json', 'schema'],
            ));
            $result = self::$validator->validate(json_decode($content), "rilta://api#/$pointer");
            $error = $result->error();
            self::assertNull($error, $error === null ? '' : "$method $url: " . json_encode((new ErrorFormatter())->formatOutput($error, 'basic')));

            return;
        }
        self::fail("The OpenAPI document does not know $method $url.");
    }

    /** The project once more, as its file brings it. */
    protected function twin(): Project
    {
        $project = $this->service(EntityManagerInterface::class)->getRepository(Project::class)->findOneBy(['slug' => self::PROJECT]);
        self::assertInstanceOf(Project::class, $project);
        $parcels = $this->service(Parcels::class);
        $path = $parcels->pack($project);
        try {
            return $parcels->unpack((string) file_get_contents($path));
        } finally {
            unlink($path);
        }
    }

    protected function data(): string
    {
        return (string) getenv('RILTA_DATA');
    }
}
