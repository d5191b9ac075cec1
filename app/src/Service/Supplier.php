<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Project;
use Rilta\Core\Format\ImageFile;
use Symfony\Component\HttpClient\Exception\TimeoutException;
use Symfony\Component\HttpClient\Retry\GenericRetryStrategy;
use Symfony\Component\HttpClient\RetryableHttpClient;
use Symfony\Contracts\HttpClient\Exception\ExceptionInterface;
use Symfony\Contracts\HttpClient\HttpClientInterface;

/**
 * The supplier's catalogue, a service of somebody else: it may be slow, absent, or answer nonsense. Nothing that it says is
 * believed unseen, and what it sends goes through the same review as any file.
 *
 * @phpstan-import-type LookedJson from Importer
 *
 * @phpstan-type Ware array{id: string, title: string, kind: string, about: string, extent: float, licence: array{name: string, text: string}, maps: list<string>, sides: list<int>}
 * @phpstan-type WareJson array{
 *     id: string,
 *     title: string,
 *     kind: string,
 *     about: string,
 *     extent: float,
 *     licence: array{name: string, text: string},
 *     maps: list<string>,
 *     sides: list<int>,
 * }
 * @phpstan-type WaresJson array{
 *     wares: list<WareJson>,
 *     left: int, // how many could not be understood
 *     total: int,
 *     page: int,
 *     pages: int,
 *     kinds: list<string>,
 * }
 */
final readonly class Supplier
{
    /** Seconds without a byte: an archive may have to be made first. */
    private const PATIENCE = 4.0;
    private const PATIENCE_FOR_ARCHIVES = 25.0;
    private const LONGEST = 60.0;
    private const RETRIES = 2;
    private const MOST_JSON = 262144;
    private const MOST_PREVIEW = 524288;
    private const MOST_WARES = 60;
    private const ID = '/^[a-z0-9][a-z0-9-]{0,59}$/D';

    private HttpClientInterface $client;

    public function __construct(HttpClientInterface $client, private Importer $importer, private Scanner $scanner, private string $address)
    {
        // What is worth another try: no connection, no answer in time, and what servers say when they are overloaded.
        $this->client = new RetryableHttpClient($client, new GenericRetryStrategy([0 => GenericRetryStrategy::IDEMPOTENT_METHODS, 429, 500, 502, 503, 504], 150, 2.0), self::RETRIES);
    }

    /**
     * A page of wares.
     *
     * @return array{wares: list<Ware>, left: int, total: int, page: int, pages: int, kinds: list<string>} `left` of them could not be understood
     *
     * @throws Refusal if there is no usable answer
     */
    public function wares(string $words, string $kind, int $side, int $page): array
    {
        $answer = json_decode($this->get('/wares', ['words' => $words, 'kind' => $kind, 'side' => $side === 0 ? '' : (string) $side, 'page' => (string) $page], self::MOST_JSON, 'application/json'), true);
        if (!\is_array($answer) || !\is_array($answer['wares'] ?? null)) {
            throw Refusal::elsewhere('The supplier\'s catalogue answered something that is no list of wares. Try again later.');
        }
        $number = static fn (string $name, int $else): int => \is_int($answer[$name] ?? null) && $answer[$name] >= 0 ? $answer[$name] : $else;
        $offered = \array_slice($answer['wares'], 0, self::MOST_WARES);
        $wares = array_values(array_filter(array_map(self::ware(...), $offered)));

        return [
            'wares' => $wares,
            'left' => \count($offered) - \count($wares),
            'total' => $number('total', \count($wares)),
            'page' => max(1, $number('page', 1)),
            'pages' => max(1, $number('pages', 1)),
            'kinds' => array_values(array_filter(\is_array($answer['kinds'] ?? null) ? $answer['kinds'] : [], static fn (mixed $one): bool => \is_string($one) && preg_match(self::ID, $one) === 1)),
        ];
    }

    /** The bytes of a PNG. */
    public function preview(string $ware): string
    {
        $bytes = $this->get('/wares/' . self::id($ware) . '/preview.png', [], self::MOST_PREVIEW, 'image/png');
        $image = ImageFile::fromBytes($bytes, "$ware.png");

        return $image->width * $image->height > 0 ? $bytes : throw Refusal::elsewhere("The supplier's picture of $ware is empty.");
    }

    /**
     * Fetches an archive and looks at what is in it, as if a person had sent it.
     *
     * @return LookedJson
     */
    public function fetch(Project $project, string $ware, int $side): array
    {
        $bytes = $this->get('/wares/' . self::id($ware) . "/$side.zip", [], ImageFile::MOST_BYTES, 'application/zip', self::PATIENCE_FOR_ARCHIVES);
        $this->scanner->pass("$ware.zip", $bytes);
        $path = (string) tempnam(sys_get_temp_dir(), 'rilta-ware');
        try {
            file_put_contents($path, $bytes);

            return $this->importer->look($project, $path, "$ware.zip");
        } finally {
            unlink($path);
        }
    }

    /** @param array<string, string> $query */
    private function get(string $path, array $query, int $most, string $type, float $patience = self::PATIENCE): string
    {
        // An answer that was cut short or is too long is asked for once more, like one that never came.
        for ($try = 0;; ++$try) {
            try {
                $response = $this->client->request('GET', $this->address . $path, ['query' => array_filter($query, static fn (string $v): bool => $v !== ''), 'timeout' => $patience, 'max_duration' => self::LONGEST, 'max_redirects' => 0]);
                $status = $response->getStatusCode();
                if ($status === 404) {
                    throw Refusal::notFound('such ware at the supplier\'s');
                }
                if ($status !== 200) {
                    throw Refusal::elsewhere("The supplier's catalogue answered $status. Try again later.");
                }
                $headers = $response->getHeaders();
                $bytes = '';
                foreach ($this->client->stream($response) as $chunk) {
                    $bytes .= $chunk->getContent();
                    if (\strlen($bytes) > $most) {
                        $response->cancel();
                        throw Refusal::elsewhere(\sprintf('The supplier sends more than %d KiB for this; it was not taken.', intdiv($most, 1024)));
                    }
                }
            } catch (TimeoutException) {
                throw Refusal::elsewhere(\sprintf('The supplier\'s catalogue did not answer within %d seconds. Try again later.', $patience));
            } catch (ExceptionInterface) {
                throw Refusal::elsewhere('The supplier\'s catalogue cannot be reached. Try again later.');
            }
            if (!str_starts_with($headers['content-type'][0] ?? '', $type)) {
                throw Refusal::elsewhere('The supplier sent ' . preg_replace('/[^a-z0-9\/+.-]/i', '', $headers['content-type'][0] ?? 'something without a type') . " where $type was expected.");
            }
            $sum = $headers['x-content-sha256'][0] ?? null;
            if ($sum === null || hash_equals($sum, hash('sha256', $bytes))) {
                return $bytes;
            }
            if ($try === self::RETRIES) {
                throw Refusal::elsewhere('What the supplier sent did not arrive whole, ' . ($try + 1) . ' times. Try again later.');
            }
        }
    }

    private static function id(string $ware): string
    {
        return preg_match(self::ID, $ware) === 1 ? $ware : throw Refusal::notFound('such ware at the supplier\'s');
    }

    /** @return Ware|null null if it is not understood */
    private static function ware(mixed $one): ?array
    {
        if (!\is_array($one)) {
            return null;
        }
        $text = static fn (mixed $value, int $most): ?string => \is_string($value) && $value !== '' && mb_check_encoding($value, 'UTF-8') && mb_strlen($value) <= $most ? $value : null;
        [$id, $title, $kind, $about] = [$text($one['id'] ?? null, 60), $text($one['title'] ?? null, 120), $text($one['kind'] ?? null, 60), $text($one['about'] ?? null, 400)];
        $licence = \is_array($one['licence'] ?? null) ? $one['licence'] : [];
        [$name, $terms] = [$text($licence['name'] ?? null, 80), $text($licence['text'] ?? null, 4000)];
        $extent = $one['extent'] ?? null;
        $sides = array_values(array_filter(\is_array($one['sides'] ?? null) ? $one['sides'] : [], static fn (mixed $side): bool => \is_int($side) && $side > 0 && $side <= ImageFile::LARGEST_SIDE));
        $maps = array_values(array_filter(array_map(static fn (mixed $map): string => $text($map, 40) ?? '', \is_array($one['maps'] ?? null) ? $one['maps'] : [])));
        // Without a licence nobody may take it.
        if ($id === null || preg_match(self::ID, $id) !== 1 || $title === null || $kind === null || $about === null || $name === null || $terms === null || (!\is_int($extent) && !\is_float($extent)) || $extent < 0.001 || $extent > 10000 || $sides === []) {
            return null;
        }

        return ['id' => $id, 'title' => $title, 'kind' => $kind, 'about' => $about, 'extent' => (float) $extent, 'licence' => ['name' => $name, 'text' => $terms], 'maps' => $maps, 'sides' => $sides];
    }
}
