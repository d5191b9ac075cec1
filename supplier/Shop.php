<?php

declare(strict_types=1);

namespace Rilta\Supplier;

use Rilta\Core\Format\Png;
use Rilta\Core\Recipe\CodedRecipeBake;
use Rilta\Core\Target\Php\Compiler;

/**
 * Answers the requests of the catalogue:
 *
 *     GET  /wares?words=&kind=&side=&page=   a page of wares as JSON
 *     GET  /wares/ID/preview.png
 *     GET  /wares/ID/SIDE.zip                the maps and the licence, with the SHA-256 of the archive in X-Content-SHA256
 *     GET  /range/PREFIX                     the rest of the SHA-1 of passwords that were stolen somewhere, as services for that have it
 *     POST /behaviour                        {"latency": ms, "failure": "none|busy|cut|nonsense", "every": n}
 */
final readonly class Shop
{
    private const PAGE = 6;
    private const PREVIEW = 160;
    private const FAILURES = ['none', 'busy', 'cut', 'nonsense'];
    private const STOLEN = ['lantern room key 1871', 'harbour master 2024!', 'tide table under glass'];
    private const LONGEST_LATENCY = 30000;

    private CodedRecipeBake $cook;

    public function __construct(private string $folder)
    {
        if (!is_dir($folder)) {
            mkdir($folder, 0o775, true);
        }
        $this->cook = new CodedRecipeBake(new Compiler("$folder/kernels"));
    }

    public function answer(string $method, string $uri, string $body): void
    {
        $path = (string) parse_url($uri, \PHP_URL_PATH);
        parse_str((string) parse_url($uri, \PHP_URL_QUERY), $query);
        if ($path === '/behaviour') {
            $this->behave($method, $body);

            return;
        }
        $failure = $this->mood();
        if ($failure === 'busy') {
            $this->json(['error' => 'We are very busy. Come back later.'], 503);
        } elseif ($failure === 'nonsense') {
            header('Content-Type: application/json');
            echo '{"wares": [{"id": "../../etc", "name": 7}], "total":';
        } elseif ($method !== 'GET') {
            $this->json(['error' => 'Only GET.'], 405);
        } elseif ($path === '/wares') {
            $this->list($query);
        } elseif (preg_match('~^/wares/([a-z-]+)/preview\.png$~D', $path, $m) === 1 && ($ware = Wares::find($m[1])) !== null) {
            $this->bytes('image/png', $this->kept("$ware->id-preview.png", fn (): string => Png::ofImage($this->cook->maps($ware, self::PREVIEW)['base-colour'])), $failure);
        } elseif (preg_match('~^/wares/([a-z-]+)/(\d+)\.zip$~D', $path, $m) === 1 && ($ware = Wares::find($m[1])) !== null && \in_array((int) $m[2], Wares::SIDES, true)) {
            $this->bytes('application/zip', $this->kept("$ware->id-$m[2].zip", fn (): string => $this->archive($ware, (int) $m[2])), $failure);
        } elseif (preg_match('~^/range/([0-9A-F]{5})$~D', $path, $m) === 1) {
            header('Content-Type: text/plain');
            $found = array_filter(array_map(static fn (string $one): string => strtoupper(sha1($one)), self::STOLEN), static fn (string $one): bool => str_starts_with($one, $m[1]));
            echo implode("\r\n", array_map(static fn (string $one): string => substr($one, 5) . ':3', $found));
        } else {
            $this->json(['error' => 'There is no such thing here.'], 404);
        }
    }

    /** @param array<array-key, mixed> $query */
    private function list(array $query): void
    {
        $text = static fn (string $name): string => \is_string($query[$name] ?? null) ? mb_strtolower(trim($query[$name])) : '';
        $found = array_values(array_filter(Wares::all(), static function (Ware $ware) use ($text): bool {
            foreach (preg_split('/\s+/', $text('words'), -1, \PREG_SPLIT_NO_EMPTY) ?: [] as $word) {
                if (!str_contains(mb_strtolower("$ware->title $ware->kind $ware->about"), $word)) {
                    return false;
                }
            }

            return ($text('kind') === '' || $ware->kind === $text('kind')) && ($text('side') === '' || \in_array((int) $text('side'), Wares::SIDES, true));
        }));
        $pages = max(1, (int) ceil(\count($found) / self::PAGE));
        $page = max(1, min($pages, (int) $text('page')));
        $this->json([
            'total' => \count($found),
            'page' => $page,
            'pages' => $pages,
            'kinds' => array_values(array_unique(array_map(static fn (Ware $ware): string => $ware->kind, Wares::all()))),
            'wares' => array_map(static fn (Ware $ware): array => $ware->describe(), \array_slice($found, ($page - 1) * self::PAGE, self::PAGE)),
        ]);
    }

    private function archive(Ware $ware, int $side): string
    {
        $name = str_replace(' ', '_', $ware->title);
        $path = (string) tempnam($this->folder, 'zip');
        $zip = new \ZipArchive();
        $zip->open($path, \ZipArchive::OVERWRITE);
        $words = ['base-colour' => 'BaseColor', 'normal' => 'Normal', 'roughness' => 'Roughness', 'occlusion' => 'AO', 'height' => 'Height'];
        foreach ($this->cook->maps($ware, $side) as $role => $image) {
            if (isset($words[$role])) {
                $zip->addFromString("{$name}_{$words[$role]}.png", Png::ofImage($image));
            }
        }
        $zip->addFromString('LICENCE.txt', "$ware->title\n\n" . Wares::LICENCES[$ware->licence] . "\n");
        $zip->close();
        $bytes = (string) file_get_contents($path);
        unlink($path);

        return $bytes;
    }

    /** Where it is slow or fails, as it was told to. */
    private function mood(): string
    {
        $file = "$this->folder/behaviour.json";
        $mood = is_file($file) ? (array) json_decode((string) file_get_contents($file), true) : [];
        $latency = \is_int($mood['latency'] ?? null) ? $mood['latency'] : 0;
        if ($latency > 0) {
            usleep($latency * 1000);
        }
        $every = \is_int($mood['every'] ?? null) ? $mood['every'] : 1;
        $failure = \is_string($mood['failure'] ?? null) ? $mood['failure'] : 'none';

        return $this->count() % max(1, $every) === 0 ? $failure : 'none';
    }

    /** How many requests there have been. */
    private function count(): int
    {
        $file = fopen("$this->folder/requests", 'c+') ?: throw new \RuntimeException("$this->folder cannot be written to.");
        flock($file, \LOCK_EX);
        $count = (int) stream_get_contents($file) + 1;
        ftruncate($file, 0);
        rewind($file);
        fwrite($file, (string) $count);
        fclose($file);

        return $count;
    }

    private function behave(string $method, string $body): void
    {
        $mood = (array) json_decode($body, true);
        $latency = $mood['latency'] ?? 0;
        $failure = $mood['failure'] ?? 'none';
        $every = $mood['every'] ?? 1;
        if ($method !== 'POST' || !\is_int($latency) || $latency < 0 || $latency > self::LONGEST_LATENCY || !\in_array($failure, self::FAILURES, true) || !\is_int($every) || $every < 1) {
            $this->json(['error' => 'POST {"latency": 0…30000, "failure": "' . implode('|', self::FAILURES) . '", "every": 1…}'], 400);

            return;
        }
        file_put_contents("$this->folder/behaviour.json", json_encode(['latency' => $latency, 'failure' => $failure, 'every' => $every], \JSON_THROW_ON_ERROR));
        // Counting begins anew, so that what was told is foreseeable.
        file_put_contents("$this->folder/requests", '0');
        $this->json(['latency' => $latency, 'failure' => $failure, 'every' => $every]);
    }

    /** @param \Closure(): string $make */
    private function kept(string $name, \Closure $make): string
    {
        $path = "$this->folder/$name";
        if (!is_file($path)) {
            $aside = $path . '.' . bin2hex(random_bytes(4));
            file_put_contents($aside, $make());
            rename($aside, $path);
        }

        return (string) file_get_contents($path);
    }

    private function bytes(string $type, string $bytes, string $failure): void
    {
        header("Content-Type: $type");
        header('X-Content-SHA256: ' . hash('sha256', $bytes));
        echo $failure === 'cut' ? substr($bytes, 0, intdiv(\strlen($bytes), 2)) : $bytes;
    }

    /** @param array<string, mixed> $data */
    private function json(array $data, int $status = 200): void
    {
        http_response_code($status);
        header('Content-Type: application/json');
        echo json_encode($data, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES);
    }
}
