<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Material\Checks;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Mesh\Meshes;
use Rilta\Core\Stage\Copies;
use Rilta\Core\Stage\Placed;
use Rilta\Core\Stage\Stage;

/**
 * An object whose surface a bake is a picture of.
 *
 * @phpstan-import-type StageObjectJson from Copies
 *
 * @phpstan-type MeshTargetJson array{
 *     object: StageObjectJson,
 *     set?: int<1, 4>,
 *     section?: string,
 *     places?: 1|4|9|16,
 *     normals?: 'tangent'|'object',
 * }
 */
final readonly class MeshTarget
{
    /** Places that a texel is looked at: squares of 1 to 4. */
    public const PLACES = [1, 4, 9, 16];
    private const SETS = 4;

    /**
     * @param int     $set     of UVs that it is laid out in; 0 for the first
     * @param ?string $section that is baked alone; null for all
     * @param int     $grid    places a texel is looked at, along each side
     */
    public function __construct(public Placed $object, public int $set = 0, public ?string $section = null, public int $grid = 1, public NormalFrame $frame = NormalFrame::Tangent)
    {
    }

    /**
     * One as requests have it: an object as stages have it; "set" from 1 on, "section" (none for all), "places", "normals".
     *
     * @throws InvalidDocument that says where something else was expected
     */
    public static function read(mixed $said, Meshes $meshes): self
    {
        $checks = new Checks();
        $data = $checks->object($said, '', ['object', 'set', 'section', 'places', 'normals']);
        $set = $data['set'] ?? 1;
        if (!\is_int($set) || $set < 1 || $set > self::SETS) {
            $checks->problem('/set', \sprintf('expected 1 to %d, found %s', self::SETS, Checks::show($set)));
        }
        $section = $data['section'] ?? '';
        if (!\is_string($section)) {
            $checks->problem('/section', 'expected the name of a section, or none for all of it');
        }
        $places = $data['places'] ?? 1;
        if (!\in_array($places, self::PLACES, true)) {
            $checks->problem('/places', \sprintf('expected one of %s, found %s', implode(', ', self::PLACES), Checks::show($places)));
        }
        $frame = NormalFrame::tryFrom(\is_string($data['normals'] ?? 'tangent') ? $data['normals'] ?? 'tangent' : '');
        if ($frame === null) {
            $checks->problem('/normals', \sprintf('expected %s, found %s', implode(' or ', array_column(NormalFrame::cases(), 'value')), Checks::show($data['normals'] ?? null)));
        }
        if ($checks->problems() !== []) {
            throw new InvalidDocument($checks->problems());
        }
        try {
            $object = Stage::read(['format' => Stage::FORMAT, 'objects' => [$data['object'] ?? null]], $meshes)->objects[0];
        } catch (InvalidDocument $e) {
            throw $e->moved('/objects/0', '/object');
        }

        return new self($object, \is_int($set) ? $set - 1 : 0, \is_string($section) && $section !== '' ? $section : null, \is_int($places) ? (int) sqrt($places) : 1, $frame ?? NormalFrame::Tangent);
    }
}
