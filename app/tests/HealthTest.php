<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\DBAL\Connection;

/** What is told to whoever watches over the server. */
final class HealthTest extends ApiTestCase
{
    public function testItSaysWhetherItCanWork(): void
    {
        self::assertSame(['answers' => true], $this->api('GET', '/api/health'));
        $ready = $this->api('GET', '/api/ready');
        self::assertSame([true, ['database' => true, 'files' => true, 'workers' => true]], [$ready['ready'], $ready['parts']]);
        // Something has waited for long, and nobody took it.
        $this->service(Connection::class)->executeStatement("INSERT INTO queue (body, headers, queue_name, created_at, available_at) VALUES ('{}', '{}', 'maps', UTC_TIMESTAMP() - INTERVAL 5 MINUTE, UTC_TIMESTAMP() - INTERVAL 5 MINUTE)");
        $this->client->request('GET', '/api/ready');
        self::assertSame([503, '{"ready":false,"parts":{"database":true,"files":true,"workers":false}}'], [$this->client->getResponse()->getStatusCode(), $this->client->getResponse()->getContent()]);
        $this->client->request('GET', '/api/metrics');
        $figures = (string) $this->client->getResponse()->getContent();
        self::assertMatchesRegularExpression('/^rilta_queue_waiting\{queue="maps"\} 1$/m', $figures);
        self::assertMatchesRegularExpression('/^rilta_queue_oldest_seconds 30\d$/m', $figures);
        // Every line is one of the format.
        foreach (explode("\n", trim($figures)) as $line) {
            self::assertMatchesRegularExpression('/^(# (HELP|TYPE) rilta_\w+ \S.*|rilta_\w+(\{\w+="[\w-]*"\})? [\d.eE+]+)$/', $line);
        }
        // From elsewhere they are not to be had.
        $this->client->request('GET', '/api/metrics', server: ['REMOTE_ADDR' => '10.0.0.7']);
        self::assertResponseStatusCodeSame(403);
    }
}
