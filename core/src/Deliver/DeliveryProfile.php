<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Json\JsonObject;
use Rilta\Core\Material\Checks;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Target\Targets;

/**
 * What is wanted of a delivery: which code, which maps, which baked images, and under which names.
 *
 * @phpstan-import-type PackedPartJson from PackedPart
 *
 * @phpstan-type DeliveryProfileJson array{
 *     format: 'rilta-delivery/1',
 *     name: string,
 *     label: string,
 *     help?: string,
 *     code?: list<string>,
 *     textures?: 'arrays'|'single',
 *     maps?: ?string,
 *     bake?: array{
 *         size: int,
 *         files?: string,
 *         green?: '+y'|'-y',
 *         normals?: 'xyz'|'xy',
 *         names?: string,
 *         sizes?: JsonObject<int>, // of channels and packed images that have another, by name
 *         packed?: list<array{name: string, channels: list<PackedPartJson>}>,
 *     }|null,
 *     glb?: ?array{
 *         mesh: string,
 *         variants?: bool, // whether the file can be switched to them
 *     },
 *     grid?: ?array{samples: int, metres?: float},
 *     budget?: array{disk?: float, memory?: float}, // mebibytes
 *     materialx?: bool, // whether it comes as MaterialX, with a tile of what its nodes cannot say
 * }
 */
final readonly class DeliveryProfile
{
    public const FORMAT = 'rilta-delivery/1';
    /** Of a project. */
    public const MOST = 24;
    private const NAME = '/^[a-z0-9][a-z0-9-]{0,39}$/D';

    /**
     * @param list<string>   $code        languages, by name
     * @param bool           $arrays      whether code reads maps from array textures
     * @param ?PictureFormat $maps        what the maps that code reads are written as; null if they are not wanted
     * @param ?BakeProfile   $bake        what is wanted of baked images; null for none
     * @param ?ReadyMade     $glb         the mesh that the baked tile lies on in a GLB file; null for none
     * @param bool           $glbVariants whether that file can be switched to the variants
     * @param bool           $materialx   whether it comes as MaterialX, with a tile of what its nodes cannot say
     * @param ?int           $samples     along a side of a grid of heights and layers; null for none
     * @param float          $metres      from sample to sample
     * @param ?float         $disk        mebibytes that all files may take; null for any
     * @param ?float         $memory      mebibytes that all pictures may take where they are drawn with
     */
    private function __construct(
        public string $name,
        public string $label,
        public string $help,
        public array $code,
        public bool $arrays,
        public ?PictureFormat $maps,
        public ?BakeProfile $bake,
        public ?ReadyMade $glb,
        public bool $glbVariants,
        public bool $materialx,
        public ?int $samples,
        public float $metres,
        public ?float $disk,
        public ?float $memory,
    ) {
    }

    /** Pixels a side that are computed. */
    public function pixels(): int
    {
        return $this->bake?->largest() ?? 1;
    }

    /**
     * One as a file has it.
     *
     * @throws InvalidDocument that says where something else was expected
     */
    public static function read(mixed $said): self
    {
        $checks = new Checks();
        $data = $checks->object($said, '', ['format', 'name', 'label', 'help', 'code', 'textures', 'maps', 'bake', 'glb', 'materialx', 'grid', 'budget']);
        if (($data['format'] ?? null) !== self::FORMAT) {
            throw InvalidDocument::at('/format', \sprintf('expected "%s", found %s', self::FORMAT, Checks::show($data['format'] ?? null)));
        }
        $name = \is_string($data['name'] ?? null) ? $data['name'] : '';
        if (preg_match(self::NAME, $name) !== 1) {
            $checks->problem('/name', 'expected small letters, digits and dashes');
        }
        $label = $checks->name($data['label'] ?? null, '/label');
        $help = $checks->text($data['help'] ?? '', '/help', 400);
        $code = [];
        foreach ($checks->items($data['code'] ?? [], '/code', 0, \count(Targets::all())) as $i => $one) {
            if (!\is_string($one) || !isset(Targets::all()[$one]) || \in_array($one, $code, true)) {
                $checks->problem("/code/$i", \sprintf('expected one of %s, each once, found %s', implode(', ', array_keys(Targets::all())), Checks::show($one)));
            } else {
                $code[] = $one;
            }
        }
        $arrays = $checks->oneOf($data['textures'] ?? 'arrays', '/textures', ['arrays', 'single']) === 'arrays';
        $formats = array_column(PictureFormat::cases(), 'value');
        $maps = ($data['maps'] ?? null) === null ? null : PictureFormat::tryFrom($checks->oneOf($data['maps'], '/maps', $formats));
        if ($maps !== null && $arrays && !$maps->hasLevels()) {
            $checks->problem('/maps', 'expected ktx2 or ktx2-blocks: no other format here has arrays; or "textures": "single"');
        }
        $bake = ($data['bake'] ?? null) === null ? null : BakeProfile::read($checks, $data['bake'], '/bake');
        $object = ($data['glb'] ?? null) === null ? null : $checks->object($data['glb'], '/glb', ['mesh', 'variants']);
        $glb = $object === null ? null : ReadyMade::tryFrom($checks->oneOf($object['mesh'] ?? null, '/glb/mesh', array_column(ReadyMade::cases(), 'value')));
        $variants = $object['variants'] ?? false;
        if (!\is_bool($variants)) {
            $checks->problem('/glb/variants', \sprintf('expected true or false, found %s', Checks::show($variants)));
        }
        if ($glb !== null && $bake === null) {
            $checks->problem('/glb', 'expected a bake as well: its images lie on the mesh');
        }
        $materialx = $data['materialx'] ?? false;
        if (!\is_bool($materialx)) {
            $checks->problem('/materialx', \sprintf('expected true or false, found %s', Checks::show($materialx)));
        } elseif ($materialx && $bake === null) {
            $checks->problem('/materialx', 'expected a bake as well: what nodes cannot say is read from its tile');
        }
        $grid = ($data['grid'] ?? null) === null ? null : $checks->object($data['grid'], '/grid', ['samples', 'metres']);
        $samples = $grid['samples'] ?? null;
        if ($grid !== null && (!\is_int($samples) || $samples < Grid::FEWEST || $samples > Grid::MOST)) {
            $checks->problem('/grid/samples', \sprintf('expected a whole number from %d to %d, found %s', Grid::FEWEST, Grid::MOST, Checks::show($samples)));
        }
        $metres = $grid['metres'] ?? 1.0;
        if ((!\is_int($metres) && !\is_float($metres)) || $metres < 0.001 || $metres > 1000.0) {
            $checks->problem('/grid/metres', \sprintf('expected 0.001 to 1000 m, found %s', Checks::show($metres)));
        }
        $budget = $checks->object($data['budget'] ?? [], '/budget', ['disk', 'memory']);
        $disk = self::mebibytes($checks, $budget['disk'] ?? null, '/budget/disk');
        $memory = self::mebibytes($checks, $budget['memory'] ?? null, '/budget/memory');
        if ($code === [] && $bake === null && $grid === null) {
            $checks->problem('', 'expected code, a bake, a grid, or several of them: nothing would be delivered');
        }
        if ($checks->problems() !== []) {
            throw new InvalidDocument($checks->problems());
        }

        return new self($name, $label, $help, $code, $arrays, $maps, $bake, $glb, $variants === true, $materialx === true, $grid === null || !\is_int($samples) ? null : $samples, is_numeric($metres) ? (float) $metres : 1.0, $disk, $memory);
    }

    /**
     * What goes over what a delivery may take, in words.
     *
     * @param list<array{bytes: int, picture?: PictureFacts}> $files
     *
     * @return list<string>
     */
    public function over(array $files): array
    {
        $taken = ['on disk' => [array_sum(array_column($files, 'bytes')), $this->disk], 'in memory' => [array_sum(array_map(static fn (array $one): int => isset($one['picture']) ? $one['picture']->memory : 0, $files)), $this->memory]];
        $over = [];
        foreach ($taken as $where => [$bytes, $limit]) {
            if ($limit !== null && $bytes > 1048576 * $limit) {
                $over[] = \sprintf('%.4g MiB %s, and %.4g MiB are wanted at most', $bytes / 1048576, $where, $limit);
            }
        }

        return $over;
    }

    private static function mebibytes(Checks $checks, mixed $said, string $path): ?float
    {
        if ($said !== null && ((!\is_int($said) && !\is_float($said)) || $said < 0.01 || $said > 1_000_000)) {
            $checks->problem($path, \sprintf('expected 0.01 to 1000000 MiB, found %s', Checks::show($said)));
        }

        return \is_int($said) || \is_float($said) ? (float) $said : null;
    }
}
