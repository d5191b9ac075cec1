<?php

declare(strict_types=1);

namespace Rilta\App\Remote;

use Rilta\App\Service\Refusal;
use Symfony\Component\DependencyInjection\Attribute\Autowire;
use Symfony\Contracts\HttpClient\Exception\ExceptionInterface;
use Symfony\Contracts\HttpClient\HttpClientInterface;
use Symfony\Contracts\HttpClient\ResponseInterface;

/** Another server, as whoever has a token of it. What it refuses is told in its words, by place. */
final readonly class RemoteServer
{
    /** Seconds without a byte. */
    private const PATIENCE = 120.0;

    public function __construct(
        private HttpClientInterface $client,
        #[Autowire('%env(RILTA_SERVER)%')]
        private string $address,
        #[\SensitiveParameter]
        #[Autowire('%env(RILTA_TOKEN)%')]
        private string $token,
    ) {
    }

    /** What it says is nothing that this version knows. */
    public static function strange(): Refusal
    {
        return Refusal::elsewhere('The server answers something else than this Rilta expects; is it of another version?');
    }

    public function isMeant(): bool
    {
        return $this->address !== '';
    }

    /**
     * @param array<string, mixed>|null $body
     *
     * @throws Refusal if it does not answer, or refuses
     */
    public function ask(string $method, string $path, ?array $body = null): mixed
    {
        $answer = $this->content($this->send($method, $path, $body === null ? [] : ['headers' => ['Content-Type' => 'application/json'], 'body' => self::json($body)]), $path);
        try {
            return $answer === '' ? null : json_decode($answer, false, 512, \JSON_THROW_ON_ERROR);
        } catch (\JsonException) {
            throw Refusal::elsewhere("$this->address answered $path with something that is no JSON; is it a Rilta server?");
        }
    }

    /** @throws Refusal */
    public function bring(string $path, string $bytes): void
    {
        $this->content($this->send('PUT', $path, ['headers' => ['Content-Type' => 'application/octet-stream'], 'body' => $bytes]), $path);
    }

    /**
     * Writes what it answers into a file.
     *
     * @param array<string, mixed>|null $body
     *
     * @throws Refusal
     */
    public function fetch(string $method, string $path, string $file, ?array $body = null): void
    {
        $response = $this->send($method, $path, $body === null ? [] : ['headers' => ['Content-Type' => 'application/json'], 'body' => self::json($body)]);
        try {
            if ($response->getStatusCode() >= 300) {
                $this->content($response, $path);
            }
            $to = @fopen($file, 'w') ?: throw new \RuntimeException("$file cannot be written; is the disk full, or the folder somebody else's?");
            foreach ($this->client->stream($response) as $chunk) {
                $bytes = $chunk->getContent();
                if (fwrite($to, $bytes) !== \strlen($bytes)) {
                    throw new \RuntimeException("$file cannot be written; is the disk full, or the folder somebody else's?");
                }
            }
            fclose($to);
        } catch (ExceptionInterface $e) {
            throw $this->away($e);
        }
    }

    /** @param array{body?: string, headers?: array<string, string>} $options */
    private function send(string $method, string $path, array $options): ResponseInterface
    {
        $url = parse_url($this->address);
        $host = trim($url['host'] ?? '', '[]');
        $scheme = $url['scheme'] ?? '';
        if (!\in_array($scheme, ['http', 'https'], true) || $host === '' || isset($url['query']) || isset($url['user'])) {
            throw Refusal::invalid("--server: expected an address like https://rilta.example, found \"$this->address\".");
        }
        if ($scheme === 'http' && !\in_array($host, ['127.0.0.1', 'localhost', '::1'], true)) {
            throw Refusal::invalid("--server: $host is another machine; its address has to begin with https://, or everybody on the way reads the token.");
        }
        $options['headers'] = ($options['headers'] ?? []) + ['X-Rilta' => '1', 'Accept' => 'application/json'] + ($this->token === '' ? [] : ['Authorization' => "Bearer $this->token"]);
        try {
            // A token is shown to nobody else: nothing is followed elsewhere.
            return $this->client->request($method, rtrim($this->address, '/') . $path, $options + ['timeout' => self::PATIENCE, 'max_redirects' => 0]);
        } catch (ExceptionInterface $e) {
            throw $this->away($e);
        }
    }

    private function content(ResponseInterface $response, string $path): string
    {
        try {
            [$status, $content] = [$response->getStatusCode(), $response->getContent(false)];
        } catch (ExceptionInterface $e) {
            throw $this->away($e);
        }
        if ($status < 300) {
            return $content;
        }
        $problem = json_decode($content, true);
        $detail = \is_array($problem) && \is_string($problem['detail'] ?? null) ? $problem['detail'] : "$this->address answered $path with status $status; is it a Rilta server?";
        $problems = [];
        foreach (\is_array($problem) && \is_array($problem['problems'] ?? null) ? $problem['problems'] : [] as $one) {
            if (\is_array($one) && \is_string($one['path'] ?? null) && \is_string($one['message'] ?? null)) {
                $problems[] = ['path' => $one['path'], 'message' => $one['message']];
            }
        }

        throw match ($status) {
            401 => Refusal::signedOut($this->token === '' ? "$this->address wants to know who asks: make a token there (Your account, Tokens) and say it in RILTA_TOKEN." : $detail),
            404 => Refusal::notFound(preg_replace('/^There is no (.*)\.$/sD', '$1', $detail) ?? $detail),
            409 => Refusal::taken($detail),
            // What browsers are told of themselves there is of no matter here.
            503 => Refusal::busy("$this->address is away for a moment, or has too much to do; do the same again."),
            default => Refusal::invalid($detail, $problems),
        };
    }

    private function away(ExceptionInterface $e): Refusal
    {
        return Refusal::elsewhere("$this->address does not answer: {$e->getMessage()}");
    }

    /** @param array<string, mixed> $body */
    private static function json(array $body): string
    {
        return json_encode($body, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION);
    }
}
