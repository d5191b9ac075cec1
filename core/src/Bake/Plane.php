<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Surface\Surface;

/**
 * A flat rectangle of the world, as wide and high as a tile, seen square on: the surface that tiles are baked from.
 * Its upper left corner lies at the world's origin, the coordinates of its mesh are metres.
 */
final readonly class Plane
{
    /** In the order in which they are tried. */
    private const FACES = ['z', 'y', 'x'];
    /** Metres: tiles are seen from near by. */
    private const DISTANCE = 1.0;

    /**
     * @param array{float, float, float} $right  unit direction of growing x in the picture
     * @param array{float, float, float} $down   unit direction of growing y
     * @param array{float, float, float} $normal towards the viewer
     */
    private function __construct(public array $right, public array $down, public array $normal)
    {
    }

    /** The one that the ground of a material is made for: walls before floors, since pictures hang upright. */
    public static function of(Lowered $lowered): self
    {
        $faces = array_map(static fn (Tap $tap): string => $tap->face, $lowered->layers[0]->taps ?? []);

        return self::facing(array_values(array_intersect(self::FACES, $faces))[0] ?? 'z');
    }

    /** The plane that looks along an axis, laid as the origin's faces are. */
    public static function facing(string $axis): self
    {
        return match ($axis) {
            'x' => new self([0.0, 0.0, -1.0], [0.0, -1.0, 0.0], [1.0, 0.0, 0.0]),
            'y' => new self([1.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0.0, 1.0, 0.0]),
            default => new self([1.0, 0.0, 0.0], [0.0, -1.0, 0.0], [0.0, 0.0, 1.0]),
        };
    }

    /**
     * The inputs of a surface as fields of a pixel.
     *
     * @param Node  $pixelX   float, pixels
     * @param Node  $pixelY   float
     * @param Node  $stepX    float, metres a pixel to the right
     * @param Node  $stepY    float, metres a pixel downwards
     * @param ?Node $distance float, metres from which it is seen
     *
     * @return array<string, Node> by the names of Surface\Surface
     */
    public function inputs(Graph $g, Node $pixelX, Node $pixelY, Node $stepX, Node $stepY, ?Node $distance = null): array
    {
        [$right, $down, $normal] = [$g->vec(...$this->right), $g->vec(...$this->down), $g->vec(...$this->normal)];
        $x = $g->mul($pixelX, $stepX);
        $y = $g->mul($pixelY, $stepY);

        return Surface::fields($g, [
            'position' => $g->add($g->mul($right, $x), $g->mul($down, $y)),
            'normal' => $normal,
            'dpdx' => $g->mul($right, $stepX),
            'dpdy' => $g->mul($down, $stepY),
            ...Surface::sets($g->vec($x, $y), $g->vec($stepX, 0.0), $g->vec(0.0, $stepY), $right, $down),
            'viewDistance' => $distance ?? $g->float(self::DISTANCE),
        ]);
    }

    /**
     * The inputs for a pixel grid in which "pixelX", "pixelY" are inputs and "stepX", "stepY" uniforms.
     *
     * @param float $aside pixels from there to the right and downwards
     *
     * @return array<string, Node>
     */
    public function grid(Graph $g, float $aside = 0.0): array
    {
        return $this->inputs(
            $g,
            $g->add($g->input('pixelX', Type::Float), $aside),
            $g->add($g->input('pixelY', Type::Float), $aside),
            $g->uniform('stepX'),
            $g->uniform('stepY'),
        );
    }
}
