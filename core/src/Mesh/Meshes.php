<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/** Where the meshes of a stage come from, by the names that its objects have for them. */
interface Meshes
{
    /** @return list<string> */
    public function names(): array;

    public function has(string $name): bool;

    /** @throws \OutOfBoundsException if there is none of that name */
    public function mesh(string $name): Mesh;

    /** What finds where a ray meets it. */
    public function index(string $name): Bvh;
}
