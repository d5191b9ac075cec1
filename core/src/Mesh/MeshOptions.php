<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/**
 * How what a file says becomes a mesh.
 *
 * @phpstan-type MeshReadingJson array{
 *     scale: float, // metres of one unit of the file
 *     up: 'y'|'z', // the axis that points up in the file
 *     turned: bool, // whether faces are seen from the other side than the file says
 *     crease: float, // degrees between faces up to which they are smooth where the file has no normals
 * }
 */
final readonly class MeshOptions
{
    public const CREASE = 40.0;
    /** Metres of one of the file's, at least and at most. */
    public const SCALES = [1e-6, 1e6];

    /**
     * @param float   $scale  metres of one unit of the file
     * @param 'y'|'z' $up     the axis that points up in the file
     * @param bool    $turned whether faces are seen from the other side than the file says
     * @param float   $crease degrees between faces up to which they are smooth where the file has no normals, 0…180
     */
    public function __construct(public float $scale = 1.0, public string $up = 'y', public bool $turned = false, public float $crease = self::CREASE)
    {
        if (!is_finite($scale) || $scale < self::SCALES[0] || $scale > self::SCALES[1]) {
            throw new \InvalidArgumentException(\sprintf('A scale has to be from %g to %g.', ...self::SCALES));
        }
        if ($up !== 'y' && $up !== 'z') {
            throw new \InvalidArgumentException('Up is "y" or "z".');
        }
        if (!is_finite($crease) || $crease < 0 || $crease > 180) {
            throw new \InvalidArgumentException('A crease angle has to be from 0 to 180 degrees.');
        }
    }

    /** @param array<array-key, mixed> $said as describe() says it; what is not said is as usual */
    public static function read(array $said): self
    {
        $number = static fn (string $name, float $usual): float => \is_int($said[$name] ?? null) || \is_float($said[$name] ?? null) ? (float) $said[$name] : $usual;

        return new self($number('scale', 1.0), ($said['up'] ?? 'y') === 'z' ? 'z' : 'y', ($said['turned'] ?? false) === true, $number('crease', self::CREASE));
    }

    /** @return MeshReadingJson */
    public function describe(): array
    {
        return ['scale' => $this->scale, 'up' => $this->up, 'turned' => $this->turned, 'crease' => $this->crease];
    }
}
