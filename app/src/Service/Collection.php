<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use League\Flysystem\FileAttributes;
use League\Flysystem\FilesystemOperator;
use League\Flysystem\StorageAttributes;
use Symfony\Component\DependencyInjection\Attribute\Autowire;
use Symfony\Component\Finder\Finder;

/** What lies in the data folder without an owner: images and meshes that nothing is or was, results of bakes that are gone, what was left half written. */
final readonly class Collection
{
    /** An upload may wait so long until it is kept. */
    private const UPLOADS = '-1 day';
    /** Kernels that nobody has used for so long are printed anew when they are wanted. */
    private const KERNELS = '-14 days';
    /** Nothing is written for longer. */
    private const UNFINISHED = '-2 hours';

    public function __construct(private Connection $db, private Blobs $blobs, private FilesystemOperator $store, #[Autowire('%data%')] private string $data, #[Autowire('%env(RILTA_STORE)%')] private string $address)
    {
    }

    /**
     * @param ?\DateTimeImmutable $now another time, for tests
     *
     * @return array{blobs: array{files: int, bytes: int}, derived: array{files: int, bytes: int}, bakes: array{files: int, bytes: int}, unfinished: array{files: int, bytes: int}} what went, or would go
     */
    public function collect(bool $pretend = false, ?\DateTimeImmutable $now = null): array
    {
        $now ??= new \DateTimeImmutable();
        $files = static fn (string $table, string $column = 'sources'): string => "SELECT f.sha256 FROM $table, JSON_TABLE($table.$column, '$[*]' COLUMNS (sha256 VARCHAR(64) PATH '$.sha256')) f";
        /** @var list<string> $known */
        $known = array_merge(...array_map($this->db->fetchFirstColumn(...), ['SELECT sha256 FROM map UNION SELECT sha256 FROM map_version UNION SELECT sha256 FROM contact_sheet', $files('mesh'), $files('mesh_version'), $files('delivery', 'files')]));
        $wanted = array_flip($known);
        foreach ($this->db->iterateColumn('SELECT document FROM stage') as $document) {
            preg_match_all('/"paint":"([0-9a-f]{64})"/', \is_string($document) ? $document : '', $painted);
            $wanted += array_flip($painted[1]);
        }
        $old = $now->modify(self::UPLOADS)->getTimestamp();
        $blobs = $this->blobs->collect($wanted, $old, $pretend);

        $derived = new Taken();
        $useless = static fn (string $path): bool => !isset($wanted[substr(basename($path), 0, 64)]);
        foreach (['maps', 'small', 'measures', 'own-meshes'] as $folder) {
            $derived = $derived->and($this->take("derived/$folder", $old, $pretend, $useless));
            // What is shared lies in the store as well.
            $derived = $this->address === '' ? $derived : $derived->and($this->takeStored("derived/$folder", $old, $pretend, $useless));
        }
        $derived = $derived->and($this->take('kernels', $now->modify(self::KERNELS)->getTimestamp(), $pretend, static fn (string $path): bool => str_ends_with($path, '.php')));
        /** @var array<int, string> $bakes states by id */
        $bakes = $this->db->fetchAllKeyValue('SELECT id, state FROM bake');
        $results = $this->takeStored('bakes', $now->modify(self::UNFINISHED)->getTimestamp(), $pretend, static function (string $path) use ($bakes): bool {
            $state = $bakes[(int) basename(\dirname($path))] ?? null;

            return $state === null || ($state !== 'waiting' && str_ends_with($path, '.rows'));
        });
        $unfinished = new Taken();
        foreach (['bakes', 'derived', 'files', 'kernels'] as $folder) {
            $unfinished = $unfinished->and($this->take($folder, $now->modify(self::UNFINISHED)->getTimestamp(), $pretend, static fn (string $path): bool => preg_match('/\.(part|lock|[0-9a-f]{8})$/D', $path) === 1));
        }

        return ['blobs' => $blobs, 'derived' => $derived->described(), 'bakes' => $results->described(), 'unfinished' => $unfinished->described()];
    }

    /**
     * Of the store, wherever that is.
     *
     * @param \Closure(string): bool $which of paths
     */
    private function takeStored(string $folder, int $before, bool $pretend, \Closure $which): Taken
    {
        $taken = new Taken();
        /** @var StorageAttributes $one */
        foreach ($this->store->listContents($folder, true) as $one) {
            if ($one instanceof FileAttributes && ($one->lastModified() ?? \PHP_INT_MAX) <= $before && $which($one->path())) {
                $taken = $taken->and(new Taken(1, (int) $one->fileSize()));
                $pretend || $this->store->delete($one->path());
            }
        }

        return $taken;
    }

    /**
     * Of this machine's data folder.
     *
     * @param \Closure(string): bool $which of paths
     */
    private function take(string $folder, int $before, bool $pretend, \Closure $which): Taken
    {
        $taken = new Taken();
        if (!is_dir("$this->data/$folder")) {
            return $taken;
        }
        foreach ((new Finder())->files()->ignoreUnreadableDirs()->in("$this->data/$folder") as $file) {
            if ($file->getMTime() <= $before && $which($file->getPathname())) {
                $taken = $taken->and(new Taken(1, (int) $file->getSize()));
                $pretend || @unlink($file->getPathname());
            }
        }

        return $taken;
    }
}
