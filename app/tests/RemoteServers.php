<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Rilta\App\Remote\RemoteServer;
use Symfony\Component\HttpClient\MockHttpClient;
use Symfony\Component\HttpClient\Response\MockResponse;

/** The application under test as another machine has it: by HTTP alone. */
trait RemoteServers
{
    /** @var list<string> what it was asked */
    private array $asked = [];
    /** Does something before it is asked. */
    private ?\Closure $before = null;

    private function remote(string $address = 'https://rilta.example', string $token = 'rilta_0123456789012345678901234567890123456789'): RemoteServer
    {
        return new RemoteServer(new MockHttpClient(function (string $method, string $url, array $options) use ($address): MockResponse {
            self::assertStringStartsWith("$address/api/", $url);
            $path = substr($url, \strlen($address));
            $this->asked[] = "$method $path";
            ($this->before ?? static fn (): null => null)($method, $path);
            $headers = [];
            foreach (\is_array($options['headers'] ?? null) ? $options['headers'] : [] as $line) {
                [$name, $value] = explode(': ', \is_string($line) ? $line : '', 2) + ['', ''];
                $key = strtoupper(strtr($name, '-', '_'));
                $headers[$key === 'CONTENT_TYPE' ? $key : "HTTP_$key"] = $value;
            }
            unset($headers['HTTP_AUTHORIZATION'], $headers['HTTP_ACCEPT_ENCODING']);
            $this->client->request($method, $path, server: $headers, content: \is_string($options['body'] ?? null) ? $options['body'] : '');
            $response = $this->client->getInternalResponse();

            return new MockResponse($response->getContent(), ['http_code' => $response->getStatusCode()]);
        }), $address, $token);
    }
}
