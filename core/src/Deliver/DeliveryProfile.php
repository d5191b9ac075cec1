<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Material\Checks;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Target\Targets;

/** What is wanted of a delivery: which code, which maps, which baked images, and under which names. */
final readonly class DeliveryProfile
{
    public const FORMAT = 'rilta-delivery/1';
    /** Of a project. */
    public const MOST = 24;
    public const SIZES = [64, 128, 256, 512, 1024, 2048, 4096];
    /** What patterns of names may be made of. */
    public const PARTS = ['{material}', '{variant}', '{role}'];
    private const NAME = '/^[a-z0-9][a-z0-9-]{0,39}$/D';
    private const LONGEST_PATTERN = 80;

    /**
     * @param list<string>   $code    languages, by name
     * @param bool           $arrays  whether code reads maps from array textures
     * @param ?PictureFormat $maps    what the maps that code reads are written as; null if they are not wanted
     * @param ?int           $size    pixels a side of baked images; null for none
     * @param PictureFormat  $files   what baked images are written as
     * @param bool           $greenUp whether green of a baked normal map grows upwards
     * @param bool           $two     whether baked normals keep x and y alone
     * @param string         $names   of baked images
     * @param ?ReadyMade     $glb     the mesh that the baked tile lies on in a GLB file; null for none
     * @param ?int           $samples along a side of a grid of heights and layers; null for none
     * @param float          $metres  from sample to sample
     */
    private function __construct(
        public string $name,
        public string $label,
        public string $help,
        public array $code,
        public bool $arrays,
        public ?PictureFormat $maps,
        public ?int $size,
        public PictureFormat $files,
        public bool $greenUp,
        public bool $two,
        public string $names,
        public ?ReadyMade $glb,
        public ?int $samples,
        public float $metres,
    ) {
    }

    /**
     * One as a file has it.
     *
     * @throws InvalidDocument that says where something else was expected
     */
    public static function read(mixed $said): self
    {
        $checks = new Checks();
        $data = $checks->object($said, '', ['format', 'name', 'label', 'help', 'code', 'textures', 'maps', 'bake', 'glb', 'grid']);
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
        $arrays = self::one($checks, $data['textures'] ?? 'arrays', '/textures', ['arrays', 'single']) === 'arrays';
        $formats = array_column(PictureFormat::cases(), 'value');
        $maps = ($data['maps'] ?? null) === null ? null : PictureFormat::tryFrom(self::one($checks, $data['maps'], '/maps', $formats));
        if ($maps !== null && $arrays && !$maps->hasLevels()) {
            $checks->problem('/maps', 'expected ktx2 or ktx2-blocks: no other format here has arrays; or "textures": "single"');
        }
        $bake = ($data['bake'] ?? null) === null ? null : $checks->object($data['bake'], '/bake', ['size', 'files', 'green', 'normals', 'names']);
        $size = $bake['size'] ?? null;
        if ($bake !== null && !\in_array($size, self::SIZES, true)) {
            $checks->problem('/bake/size', \sprintf('expected one of %s, found %s', implode(', ', self::SIZES), Checks::show($size)));
        }
        $files = PictureFormat::tryFrom(self::one($checks, $bake['files'] ?? 'png', '/bake/files', $formats)) ?? PictureFormat::Png;
        $greenUp = self::one($checks, $bake['green'] ?? '+y', '/bake/green', ['+y', '-y']) === '+y';
        $two = self::one($checks, $bake['normals'] ?? 'xyz', '/bake/normals', ['xyz', 'xy']) === 'xy';
        if ($two && !$files->hasLevels()) {
            $checks->problem('/bake/normals', \sprintf('expected xyz: %s has no images of two values', $files->value));
        }
        $names = \is_string($bake['names'] ?? '{material}_{role}') ? $bake['names'] ?? '{material}_{role}' : '';
        $wrong = self::objection($names);
        if ($wrong !== null) {
            $checks->problem('/bake/names', $wrong);
        }
        $glb = ($data['glb'] ?? null) === null ? null : ReadyMade::tryFrom(self::one($checks, $checks->object($data['glb'], '/glb', ['mesh'])['mesh'] ?? null, '/glb/mesh', array_column(ReadyMade::cases(), 'value')));
        if ($glb !== null && $bake === null) {
            $checks->problem('/glb', 'expected a bake as well: its images lie on the mesh');
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
        if ($code === [] && $bake === null && $grid === null) {
            $checks->problem('', 'expected code, a bake, a grid, or several of them: nothing would be delivered');
        }
        if ($checks->problems() !== []) {
            throw new InvalidDocument($checks->problems());
        }

        return new self($name, $label, $help, $code, $arrays, $maps, $bake === null || !\is_int($size) ? null : $size, $files, $greenUp, $two, $names, $glb, $grid === null || !\is_int($samples) ? null : $samples, is_numeric($metres) ? (float) $metres : 1.0);
    }

    /** What is wrong with a pattern of names, or null. */
    public static function objection(string $pattern): ?string
    {
        $rest = str_replace(self::PARTS, '', $pattern);

        return match (true) {
            !str_contains($pattern, '{role}') => 'expected {role} in it, or all images would have one name',
            \strlen($pattern) > self::LONGEST_PATTERN || preg_match('/^[A-Za-z0-9._-]*$/D', $rest) !== 1 => \sprintf('expected letters, digits, dots, dashes, underscores and %s, at most %d characters', implode(', ', self::PARTS), self::LONGEST_PATTERN),
            str_starts_with($pattern, '.') => 'expected no dot in front: such files are hidden',
            default => null,
        };
    }

    /** The name of a baked image, without its extension. */
    public function nameOf(string $material, string $variant, string $role): string
    {
        $name = strtr($this->names, ['{material}' => $material, '{variant}' => $variant, '{role}' => $role]);

        // Where there is no variant, what parted it from the rest is not left over.
        return trim((string) preg_replace('/([._-])[._-]+/', '$1', $name), '._-');
    }

    /** @param list<string> $choices */
    private static function one(Checks $checks, mixed $value, string $path, array $choices): string
    {
        if (\is_string($value) && \in_array($value, $choices, true)) {
            return $value;
        }
        $checks->problem($path, \sprintf('expected one of %s, found %s', implode(', ', $choices), Checks::show($value)));

        return $choices[0] ?? '';
    }
}
