<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Surface\Surface;

/**
 * A flat rectangle of the world, as wide and high as a tile, seen square on: the surface that tiles are baked from.
 * Its upper left corner lies at the world's origin, the coordinates of its mesh are metres.
 */
final readonly class Plane
{
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
     * @param Node $pixelX float, pixels
     * @param Node $pixelY float
     * @param Node $stepX  float, metres a pixel to the right
     * @param Node $stepY  float, metres a pixel downwards
     *
     * @return array<string, Node> by the names of Surface\Surface
     */
    public function inputs(Graph $g, Node $pixelX, Node $pixelY, Node $stepX, Node $stepY): array
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
            'viewDistance' => $g->float(self::DISTANCE),
        ]);
    }

    /** The inputs for a pixel grid in which "pixelX", "pixelY" are inputs and "stepX", "stepY" uniforms.
     *
     * @return array<string, Node>
     */
    public function grid(Graph $g): array
    {
        return $this->inputs(
            $g,
            $g->input('pixelX', Type::Float),
            $g->input('pixelY', Type::Float),
            $g->uniform('stepX'),
            $g->uniform('stepY'),
        );
    }
}
