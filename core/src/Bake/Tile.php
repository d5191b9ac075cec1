<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Step\Tap;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;

/** The rectangle of the world that a tile shows, and whether copies of it line up. */
final readonly class Tile
{
    /** Faces in the order in which they are tried: walls first, since pictures hang upright. */
    private const FACES = ['z', 'y', 'x'];

    /**
     * @param float   $width    metres
     * @param float   $height   metres
     * @param ?string $obstacle why copies of the tile do not line up; null if they do
     */
    private function __construct(public Plane $plane, public float $width, public float $height, public ?string $obstacle)
    {
    }

    public function isSeamless(): bool
    {
        return $this->obstacle === null;
    }

    /**
     * One repeat of the lowest layer's lane, on the face that the lane covers alone. The lane is asked how far its
     * coordinates advance over a metre to the right and a metre down.
     */
    public static function of(Lowered $lowered, Compiler $compiler): self
    {
        $taps = $lowered->layers[0]->taps ?? [];
        $faces = array_map(static fn (Tap $tap): string => $tap->face, $taps);
        $axis = array_values(array_intersect(self::FACES, $faces))[0] ?? 'z';
        $plane = Plane::facing($axis);

        $g = new Graph();
        $inputs = $plane->inputs($g, $g->float(0), $g->float(0), $g->float(1), $g->float(1));
        $rewriter = new Rewriter($lowered->graph, $g, $inputs);
        $outputs = [];
        foreach ($taps as $i => $tap) {
            $outputs["dx$i"] = $rewriter->rewrite($tap->dx);
            $outputs["dy$i"] = $rewriter->rewrite($tap->dy);
            $outputs["weight$i"] = $rewriter->rewrite($tap->weight);
        }
        $found = $compiler->compile($g, $outputs, ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY])
            ->points(1, $lowered->uniforms(), [], []);

        $active = array_values(array_filter(array_keys($taps), static fn (int $i): bool => $found["weight$i"][0][0] > 0));
        $extent = $lowered->layers === [] ? 1.0 : $lowered->layers[0]->sets['']->extent;
        if (\count($active) !== 1) {
            return new self($plane, $extent, $extent, \sprintf('%d projections overlap on a flat face', \count($active)));
        }
        $i = $active[0];
        [$ux, $vx, $uy, $vy] = array_map(floatval(...), [$found["dx$i"][0][0], $found["dx$i"][1][0], $found["dy$i"][0][0], $found["dy$i"][1][0]]);
        if ($ux === 0.0 || $vy === 0.0 || abs($vx / $ux) > 1e-9 || abs($uy / $vy) > 1e-9) {
            return new self($plane, $extent, $extent, 'the lane does not run along the edges of the tile');
        }

        return new self($plane, abs(1 / $ux), abs(1 / $vy), null);
    }
}
