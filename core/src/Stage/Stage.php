<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Mesh\Assembly;
use Rilta\Core\Mesh\Meshes;
use Rilta\Core\Mesh\ReadyMeshes;

/**
 * Objects and light to judge a material on: `rilta-stage/2`; version 1 had no light of its own.
 *
 * @phpstan-import-type StageObjectJson from Copies
 *
 * @phpstan-type StageDocumentJson array{
 *     format: 'rilta-stage/2'|'rilta-stage/1',
 *     objects: list<StageObjectJson>,
 *     camera?: array{position: array{float, float, float}, target: array{float, float, float}},
 *     light?: array{ // What is not said is the sky's own
 *         sky?: string,
 *         turn?: float, // degrees to the right of -z, of the sun
 *         height?: float, // degrees above the horizon
 *         strength?: float,
 *         colour?: array{float, float, float},
 *         brightness?: float, // percent
 *         exposure?: float, // stops
 *         shown?: bool,
 *     },
 *     places?: list<array{name: string, position: array{float, float, float}, target: array{float, float, float}}>, // named places of the eye
 * }
 */
final readonly class Stage
{
    public const FORMAT = 'rilta-stage/2';
    private const FORMATS = ['rilta-stage/1', self::FORMAT];
    public const MOST_OBJECTS = 2000;
    private const MOST_PLACES = 50;
    private const MOST_NAMED = 40;
    public const LARGEST_SEED = 0xFFFFFF;

    /** @param list<Placed> $objects */
    public function __construct(public array $objects, public Meshes $meshes, public Paints $paints = new NoPaints())
    {
    }

    /**
     * The stage that a project begins with: cubes of one mesh at three scales, a sphere, a floor.
     *
     * @return StageDocumentJson
     */
    public static function first(): array
    {
        return [
            'format' => self::FORMAT,
            'objects' => [
                self::placed('floor', 'Floor', 'floor', [0.0, 0.0, 0.0]),
                self::placed('cube-1', 'Cube', 'cube', [-3.0, 0.0, 0.0]),
                self::placed('cube-2', 'Cube, three times as wide', 'cube', [-1.0, 0.0, 0.0], [3.0, 1.0, 1.0], 2, 0.35),
                self::placed('cube-3', 'Cube, half as high, twice as deep', 'cube', [1.35, 0.0, 0.5], [1.0, 0.5, 2.0], 3, 0.7),
                self::placed('sphere', 'Sphere', 'sphere', [2.9, 0.0, 0.3], [1.4, 1.4, 1.4], 4, 1.0),
            ],
            'camera' => ['position' => [1.6, 2.9, 8.2], 'target' => [0.1, 0.35, 0.0]],
        ];
    }

    /**
     * @param array{float, float, float} $position
     * @param array{float, float, float} $scale
     *
     * @return StageObjectJson
     */
    private static function placed(string $id, string $name, string $mesh, array $position, array $scale = [1.0, 1.0, 1.0], int $seed = 1, float $value = 0.0): array
    {
        return ['id' => $id, 'name' => $name, 'mesh' => $mesh, 'position' => $position, 'turn' => [0.0, 0.0, 0.0], 'scale' => $scale, 'seed' => $seed, 'value' => $value];
    }

    /** @throws InvalidDocument */
    public static function read(mixed $data, Meshes $meshes = new ReadyMeshes(), Paints $paints = new NoPaints()): self
    {
        if (!\is_array($data) || !\in_array($data['format'] ?? null, self::FORMATS, true)) {
            throw InvalidDocument::at('/format', 'expected "' . self::FORMAT . '"');
        }
        $objects = $data['objects'] ?? null;
        if (!\is_array($objects) || !array_is_list($objects) || \count($objects) > self::MOST_OBJECTS) {
            throw InvalidDocument::at('/objects', \sprintf('expected a list of at most %d objects', self::MOST_OBJECTS));
        }
        $placed = [];
        foreach ($objects as $i => $object) {
            $one = self::object($object, "/objects/$i", $meshes);
            if (isset($placed[$one->id])) {
                throw InvalidDocument::at("/objects/$i/id", \sprintf('the id "%s" is taken', $one->id));
            }
            $placed[$one->id] = $one;
        }
        if (isset($data['camera'])) {
            $camera = \is_array($data['camera']) ? $data['camera'] : [];
            self::eye($camera, '/camera');
        }
        $places = $data['places'] ?? [];
        if (!\is_array($places) || !array_is_list($places) || \count($places) > self::MOST_PLACES) {
            throw InvalidDocument::at('/places', \sprintf('expected a list of at most %d places of the eye', self::MOST_PLACES));
        }
        foreach ($places as $i => $place) {
            self::eye(\is_array($place) ? $place : [], "/places/$i");
            self::named(\is_array($place) ? $place['name'] ?? null : null, "/places/$i/name");
        }

        if (isset($data['light'])) {
            Lighting::check($data['light'], '/light');
        }

        return new self(array_values($placed), $meshes, $paints);
    }

    private static function object(mixed $data, string $path, Meshes $meshes): Placed
    {
        if (!\is_array($data) || !\is_string($data['id'] ?? null) || preg_match('/^[a-z0-9-]{1,60}$/D', $data['id']) !== 1) {
            throw InvalidDocument::at("$path/id", 'expected lower-case letters, digits and hyphens');
        }
        $name = self::named($data['name'] ?? null, "$path/name");
        $mesh = $data['mesh'] ?? null;
        if (!\is_string($mesh) || !$meshes->has($mesh)) {
            throw InvalidDocument::at("$path/mesh", 'expected one of ' . implode(', ', \array_slice($meshes->names(), 0, self::MOST_NAMED)));
        }
        self::flag($data['locked'] ?? false, "$path/locked");
        $controls = Placement::controls();

        return new Placed(
            $data['id'],
            $name,
            $mesh,
            self::triple($data['position'] ?? null, "$path/position", $controls['position']),
            self::triple($data['turn'] ?? null, "$path/turn", $controls['turn']),
            self::triple($data['scale'] ?? null, "$path/scale", $controls['scale']),
            self::seed($data['seed'] ?? 1, "$path/seed"),
            self::value($data['value'] ?? 0.0, "$path/value"),
            self::variant($data['variant'] ?? '', "$path/variant"),
            self::flag($data['hidden'] ?? false, "$path/hidden"),
            self::wears($data['wears'] ?? null, "$path/wears"),
            self::sections($data['sections'] ?? [], "$path/sections"),
            self::paint($data['paint'] ?? '', "$path/paint"),
        );
    }

    /**
     * Those that the mesh does not have are no mistake: another file may have taken its place.
     *
     * @return array<string, Wear> by their names
     */
    private static function sections(mixed $data, string $path): array
    {
        if (!\is_array($data) || !array_is_list($data) || \count($data) > Assembly::MOST_SECTIONS) {
            throw InvalidDocument::at($path, \sprintf('expected a list of at most %d sections', Assembly::MOST_SECTIONS));
        }
        $sections = [];
        foreach ($data as $i => $one) {
            $name = \is_array($one) ? $one['section'] ?? null : null;
            if (!\is_array($one) || !\is_string($name) || $name === '' || mb_strlen($name) > 80 || isset($sections[$name])) {
                throw InvalidDocument::at("$path/$i/section", 'expected the name of a section, of 1 to 80 characters, once');
            }
            $sections[$name] = new Wear(self::wears($one['wears'] ?? null, "$path/$i/wears"), self::variant($one['variant'] ?? '', "$path/$i/variant"));
        }

        return $sections;
    }

    private static function named(mixed $value, string $path): string
    {
        return \is_string($value) && $value !== '' && mb_strlen($value) <= 120 ? $value : throw InvalidDocument::at($path, 'expected a name of 1 to 120 characters');
    }

    /** @param array<array-key, mixed> $data */
    private static function eye(array $data, string $path): void
    {
        self::triple($data['position'] ?? null, "$path/position", Placement::controls()['position']);
        self::triple($data['target'] ?? null, "$path/target", Placement::controls()['position']);
    }

    private static function seed(mixed $value, string $path): int
    {
        return \is_int($value) && $value >= 0 && $value <= self::LARGEST_SEED
            ? $value
            : throw InvalidDocument::at($path, 'expected a whole number from 0 to ' . self::LARGEST_SEED);
    }

    private static function wears(mixed $value, string $path): ?int
    {
        return $value === null || (\is_int($value) && $value > 0) ? $value : throw InvalidDocument::at($path, 'expected the number of a material, or nothing');
    }

    private static function paint(mixed $value, string $path): string
    {
        return \is_string($value) && preg_match('/^([0-9a-f]{64})?$/D', $value) === 1
            ? $value
            : throw InvalidDocument::at($path, 'expected the SHA-256 of what was painted, or nothing');
    }

    private static function flag(mixed $value, string $path): bool
    {
        return \is_bool($value) ? $value : throw InvalidDocument::at($path, 'expected true or false');
    }

    private static function variant(mixed $value, string $path): string
    {
        return \is_string($value) && preg_match('/^[a-z0-9._-]{0,80}$/D', $value) === 1
            ? $value
            : throw InvalidDocument::at($path, 'expected the id of a variant, or nothing');
    }

    private static function value(mixed $value, string $path): float
    {
        $objection = Placement::value()->objection($value);

        return $objection === null ? Placement::value()->normalise($value) : throw InvalidDocument::at($path, $objection);
    }

    /** @return array{float, float, float} */
    private static function triple(mixed $value, string $path, NumberControl $control): array
    {
        if (!\is_array($value) || \count($value) !== 3 || !array_is_list($value)) {
            throw InvalidDocument::at($path, 'expected three numbers');
        }
        foreach ($value as $number) {
            $objection = $control->objection($number);
            if ($objection !== null) {
                throw InvalidDocument::at($path, $objection);
            }
        }
        [$x, $y, $z] = array_map($control->normalise(...), $value);

        return [$x, $y, $z];
    }
}
