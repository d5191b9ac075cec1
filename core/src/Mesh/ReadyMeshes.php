<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/** The ready-made meshes, made once. */
final class ReadyMeshes implements Meshes
{
    /** @var array<string, Mesh> */
    private static array $meshes = [];

    /** @var array<string, Bvh> */
    private static array $indices = [];

    public function has(string $name): bool
    {
        return ReadyMade::tryFrom($name) !== null;
    }

    public function names(): array
    {
        return array_column(ReadyMade::cases(), 'value');
    }

    public function mesh(string $name): Mesh
    {
        return self::$meshes[$name] ??= (ReadyMade::tryFrom($name) ?? throw new \OutOfBoundsException("There is no mesh \"$name\"."))->mesh();
    }

    public function index(string $name): Bvh
    {
        return self::$indices[$name] ??= Bvh::of($this->mesh($name));
    }
}
