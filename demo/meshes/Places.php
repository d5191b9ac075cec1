<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Stage\Copies;
use Rilta\Core\Stage\Placed;

/** The stages of Ebbwater Station. Materials and meshes are called by their names here. */
final class Places
{
    /** What stands for that which is painted where feet walk. */
    public const WALKED = 'walked';
    /** Where materials are first seen. */
    public const FIRST = 'Station yard';
    private const LAID_OUT = 'Planter, laid out';
    private const PEBBLES = 140;
    /** Ways over the quay, in metres along x and z: from the hut to the observatory, and out to the flat. */
    private const WAYS = [[[4.0, -1.2], [3.2, 1.4], [0.8, 2.3], [-3.2, 1.3], [-4.6, 0.6]], [[3.2, 1.4], [5.2, 3.2], [6.9, 5.5]]];
    /** Half of how wide they are, metres. */
    private const WIDE = 1.0;

    /**
     * Meshes that were worked on: one UV set without overlaps, and one as a lane begins.
     *
     * @return array<string, array{mesh: string, edits: list<array<string, mixed>>}> by name
     */
    public static function worked(): array
    {
        return [self::LAID_OUT => ['mesh' => 'Planter', 'edits' => [
            ['edit' => 'unwrap', 'set' => 2, 'angle' => 50],
            ['edit' => 'origin', 'set' => 4, 'origin' => ['space' => 'object', 'faces' => 'six'], 'parameters' => [], 'stands' => ['position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1]]],
            ['edit' => 'name', 'set' => 4, 'name' => 'As a lane begins'],
        ]]];
    }

    /** @return array<string, array{format: string, objects: list<array<string, mixed>>}> documents by name, the first of them first */
    public static function documents(): array
    {
        /** @var array{format: string, objects: list<array<string, mixed>>} $small */
        $small = json_decode((string) file_get_contents(\dirname(__DIR__) . '/stage.json'), true, 64, \JSON_THROW_ON_ERROR);

        return ['Small stage' => $small, self::FIRST => self::yard()];
    }

    /**
     * The yard behind the quay: the observatory with its dome and its library, a wall of single blocks, the hut of the tide gauge, a planter,
     * silt where feet walk, and the salt flat to the horizon. One wall wears what is open.
     *
     * @return array{format: string, objects: list<array<string, mixed>>, camera: array<string, list<float>>, light: array<string, mixed>, places: list<array<string, mixed>>}
     */
    private static function yard(): array
    {
        $objects = [
            self::object('flat', 'Salt flat', 'ground', 'Salt flat', [0.0, -0.42, -40.0], scale: [3.0, 0.6, 3.0]),
            self::object('quay', 'Quay', 'cube', 'Quay paving', [0.0, -0.3, 0.0], scale: [17.0, 0.3, 11.0]),
            // Fine enough to be painted on; a little above the stones that it is the top of.
            ['paint' => self::WALKED] + self::object('top', 'Top of the quay', 'ground', 'Trodden quay', [0.0, 0.02, 0.0], scale: [17.0 / 120.0, 0.012, 11.0 / 120.0]),
            self::object('tower', 'Observatory', 'cylinder', 'Courtyard render', [-4.6, 0.0, -2.6], scale: [3.6, 2.7, 3.6]),
            self::object('dome', 'Dome', 'sphere', 'Observatory dome', [-4.6, 0.85, -2.6], scale: [3.7, 3.7, 3.7]),
            // What is open is judged on the library's wall, and on the post before it.
            self::object('library', 'Library wall', 'cube', null, [-0.2, 0.0, -3.4], scale: [5.2, 2.4, 1.6]),
            self::object('roof', 'Library roof', 'roof', 'Observatory roof', [-0.2, 2.4, -3.4], [0.0, 90.0, 0.0], [0.44, 0.5, 1.12]),
            self::object('post', 'Post', 'rounded-block', null, [2.2, 0.0, 1.9], scale: [0.7, 1.0, 0.7]),
            self::object('hut', 'Tide hut', 'Tide hut', 'Sea wall', [4.5, 0.0, -2.6], [0.0, -24.0, 0.0], sections: ['Roof' => 'Observatory roof', 'Door' => 'Copper hatch']),
            self::object('planter', 'Planter', self::LAID_OUT, 'Glazed basin', [0.3, 0.0, -0.4], [0.0, 4.0, 0.0], sections: ['Rim' => 'Instrument plinth', 'Soil' => 'Silt bank']),
            self::object('step', 'Steps', 'stair', 'Quay paving', [-4.6, 0.0, 0.2], [0.0, 180.0, 0.0], [1.1, 0.5, 0.6]),
            self::object('boulder-1', 'Boulder', 'boulder', 'Mooring block', [6.4, 0.0, 2.2], [0.0, 40.0, 0.0], [0.9, 0.7, 0.9], 4),
            self::object('boulder-2', 'Small boulder', 'boulder', 'Mooring block', [5.4, 0.0, 3.0], [10.0, 190.0, 0.0], [0.45, 0.4, 0.5], 5),
        ];
        // Courses of single blocks, each with a seed of its own; every second course begins half a block further on.
        $number = 0;
        for ($course = 0; $course < 3; ++$course) {
            for ($block = 0; $block < 6; ++$block) {
                ++$number;
                $objects[] = self::object("block-$number", "Block $number", 'Quay block', 'Mooring block', [-7.6, 0.42 * $course, 4.4 - 0.92 * $block - 0.46 * ($course % 2)], [0.0, 90.0 + ($number * 37 % 5 - 2) * 0.6, 0.0], [0.9, 0.42, 0.55], 10 + $number);
            }
        }

        array_push($objects, ...self::pebbles());

        return [
            'format' => 'rilta-stage/2',
            'objects' => $objects,
            'camera' => ['position' => [2.2, 2.7, 11.6], 'target' => [-0.6, 1.1, -1.8]],
            'light' => ['sky' => 'clear-day', 'turn' => 128, 'height' => 38],
            'places' => [
                ['name' => 'Library wall', 'position' => [1.2, 1.6, 1.8], 'target' => [-0.4, 1.1, -2.6]],
                ['name' => 'From the flat', 'position' => [13.0, 1.7, 14.0], 'target' => [-1.0, 1.2, -2.0]],
                ['name' => 'Along the blocks', 'position' => [-5.4, 1.5, 6.4], 'target' => [-7.4, 0.6, 2.4]],
            ],
        ];
    }

    /**
     * What the tide leaves on the quay: stones all over it, each of another size and turned otherwise.
     *
     * @return list<array<string, mixed>>
     */
    private static function pebbles(): array
    {
        $quay = new Placed('quay', 'Quay', 'cube', [0.0, -0.3, 0.0], [0.0, 0.0, 0.0], [17.0, 0.3, 11.0]);
        $pebble = new Placed('pebble', 'Pebble', 'Pebble', [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]);
        $copies = Copies::over($pebble, $quay, ReadyMade::Cube->mesh(), self::PEBBLES, 5.0, false, 180.0, 60.0, 29, []);

        return array_map(static fn (Placed $one): array => Copies::document($one) + ['wears' => 'Mooring block'], $copies);
    }

    /** Four bytes a vertex of the top of the quay: the first is how much is walked there. */
    public static function walked(): string
    {
        $bytes = '';
        foreach (array_chunk(ReadyMade::Ground->mesh()->positions->numbers(), 3) as [$x, , $z]) {
            $away = \INF;
            foreach (self::WAYS as $way) {
                for ($i = 1; $i < \count($way); ++$i) {
                    $away = min($away, self::distance($x * 17.0 / 120.0, $z * 11.0 / 120.0, $way[$i - 1], $way[$i]));
                }
            }
            $share = max(0.0, min(1.0, 1.0 - $away / self::WIDE));
            $bytes .= pack('C4', (int) round(255 * $share * $share * (3 - 2 * $share)), 0, 0, 0);
        }

        return $bytes;
    }

    /**
     * From a point to a line between two others, metres.
     *
     * @param array{float, float} $from
     * @param array{float, float} $to
     */
    private static function distance(float $x, float $z, array $from, array $to): float
    {
        [$dx, $dz] = [$to[0] - $from[0], $to[1] - $from[1]];
        $t = max(0.0, min(1.0, (($x - $from[0]) * $dx + ($z - $from[1]) * $dz) / max(1e-9, $dx * $dx + $dz * $dz)));

        return hypot($x - $from[0] - $t * $dx, $z - $from[1] - $t * $dz);
    }

    /**
     * @param ?string               $wears    nothing: what is open
     * @param list<float>           $position
     * @param list<float>           $turn
     * @param list<float>           $scale
     * @param array<string, string> $sections what they wear
     *
     * @return array<string, mixed>
     */
    private static function object(string $id, string $name, string $mesh, ?string $wears, array $position, array $turn = [0.0, 0.0, 0.0], array $scale = [1.0, 1.0, 1.0], int $seed = 1, array $sections = []): array
    {
        return ['id' => $id, 'name' => $name, 'mesh' => $mesh, 'position' => $position, 'turn' => $turn, 'scale' => $scale, 'seed' => $seed, 'value' => 0]
            + ($wears === null ? [] : ['wears' => $wears])
            + ($sections === [] ? [] : ['sections' => array_map(static fn (string $section, string $worn): array => ['section' => $section, 'wears' => $worn], array_keys($sections), $sections)]);
    }
}
