<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Stage\Placed;
use Rilta\Core\Stage\RayCast;
use Rilta\Core\Stage\Stage;
use Rilta\Core\Stage\Wear;

/** Points all over what wears a material on a stage, seen square on: as many on each kind of object, whatever its size, and there each for the same area. */
final readonly class StageSamples
{
    public const COUNT = 240;
    /** On each kind of object. */
    private const LEAST = 12;
    /** Kinds of objects, objects of a kind, and triangles of all of these that are looked at; of more, every so many. */
    private const MOST_KINDS = 40;
    private const MOST_OBJECTS = 24;
    private const MOST_TRIANGLES = 8000;
    /** Metres that they are seen from, in turn, and metres a pixel for each of them. */
    private const DISTANCES = [1.0, 4.0, 16.0, 64.0];
    private const PIXEL = 0.001;

    /** @param array<string, list<float>> $inputs flat lists by input of a surface */
    private function __construct(public int $count, public array $inputs)
    {
    }

    /**
     * @param ?int $material its number; null for the one that is shown
     * @param bool $both     whether every other one is seen from behind
     *
     * @return ?self null if nothing wears it
     */
    public static function of(Stage $stage, ?int $material, bool $both = false): ?self
    {
        $objects = [];
        foreach ($stage->objects as $object) {
            if (!$object->hidden && self::wears($object, $material)) {
                $objects[$object->mesh][] = $object;
            }
        }
        $kinds = [];
        foreach (self::some(array_values($objects), self::MOST_KINDS) as $alike) {
            $alike = self::some($alike, self::MOST_OBJECTS);
            $mesh = $stage->meshes->mesh($alike[0]->mesh);
            $kinds[] = array_merge(...array_map(static fn (Placed $object): array => self::faces($object, $mesh, $material, intdiv(self::MOST_TRIANGLES, \count($alike))), $alike));
        }
        $kinds = array_values(array_filter($kinds));
        if ($kinds === []) {
            return null;
        }
        $dice = new \Random\Randomizer(new \Random\Engine\Mt19937(23));
        $share = static fn (): float => $dice->getInt(0, 1 << 20) / (1 << 20);
        $inputs = [];
        $count = 0;
        foreach ($kinds as $faces) {
            foreach (self::spread($faces, max(self::LEAST, intdiv(self::COUNT, \count($kinds)))) as [$object, $triangle]) {
                [$root, $v] = [sqrt($share()), $share()];
                $distance = self::DISTANCES[intdiv($count, 2) % \count(self::DISTANCES)];
                foreach (RayCast::onto($stage, $object, $triangle, [1 - $root, $root * (1 - $v), $root * $v], $distance, self::PIXEL * $distance, $both && $count % 2 === 1)->inputs as $name => $values) {
                    $inputs[$name] = [...$inputs[$name] ?? [], ...$values];
                }
                ++$count;
            }
        }

        return new self($count, $inputs);
    }

    /** Whether any of it may wear the material. */
    private static function wears(Placed $object, ?int $material): bool
    {
        return array_filter([$object->worn(''), ...array_values($object->sections)], static fn (Wear $one): bool => $one->material === null || $one->material === $material) !== [];
    }

    /**
     * @template T
     *
     * @param non-empty-list<T>|list<T> $all
     *
     * @return ($all is non-empty-list<T> ? non-empty-list<T> : list<T>) all, or so many from all along
     */
    private static function some(array $all, int $most): array
    {
        $count = \count($all);

        return $count <= $most ? $all : array_map(static fn (int $i): mixed => $all[intdiv($i * $count, $most)], range(0, $most - 1));
    }

    /**
     * The faces of an object that wear it, with their square metres.
     *
     * @return list<array{Placed, int, float}>
     */
    private static function faces(Placed $object, Mesh $mesh, ?int $material, int $most): array
    {
        $faces = [];
        $stride = max(1, (int) ceil($mesh->triangles / $most));
        for ($t = 0; $t < $mesh->triangles; $t += $stride) {
            $wears = $object->worn($object->sections === [] ? '' : $mesh->section($t))->material;
            $area = $wears === null || $wears === $material ? $stride * self::area($object, $mesh, $t) : 0.0;
            if ($area > 0.0) {
                $faces[] = [$object, $t, $area];
            }
        }

        return $faces;
    }

    /**
     * So many of some faces, the same area from one to the next.
     *
     * @param non-empty-list<array{Placed, int, float}> $faces
     *
     * @return list<array{Placed, int, float}>
     */
    private static function spread(array $faces, int $count): array
    {
        $sum = array_sum(array_column($faces, 2));
        $chosen = [];
        [$at, $past] = [0, $faces[0][2]];
        for ($i = 0; $i < $count; ++$i) {
            while ($past < $sum * ($i + 0.5) / $count && isset($faces[$at + 1])) {
                $past += $faces[++$at][2];
            }
            $chosen[] = $faces[$at];
        }

        return $chosen;
    }

    private static function area(Placed $object, Mesh $mesh, int $triangle): float
    {
        [$a, $b, $c] = array_map(static fn (int $i): array => $object->point($mesh->positions->triple($i)), $mesh->corners($triangle));

        return Vec::length(Vec::cross(Vec::sub($b, $a), Vec::sub($c, $a))) / 2;
    }
}
