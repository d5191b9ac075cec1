<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Light;
use Rilta\Core\Field\Library\Pixels;
use Rilta\Core\Field\Library\Sky;
use Rilta\Core\Field\Library\SkyKind;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;
use Rilta\Core\Raster\Mips;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;

/** A picture of a material on the end of a drilled core, lit, computed by the kernel that bakes. */
final readonly class Thumbnail
{
    /** Metres; what is cut off at the sides is a twentieth. */
    private const RADIUS = 0.62;
    private const VIEW = 1.30;
    private const MANY_TAPS = 6;
    /** Metres of what is read from above alone: on upright sides it would be drawn out. */
    private const SLAB = 0.1;
    /** Share of the picture above the middle of the end. */
    private const ABOVE = 0.39;
    private const ABOVE_SLAB = 0.46;

    public function __construct(private Compiler $compiler, private MapTexels $maps)
    {
    }

    /** Computed at twice the size and averaged, so that edges are smooth; where a pixel costs many reads, once. */
    public function picture(Lowered $lowered, int $width, int $height): Image
    {
        $times = \count($lowered->taps()) > self::MANY_TAPS ? 1 : 2;
        $g = new Graph();
        $step = self::VIEW / ($times * $width);
        $x = $g->mul($g->sub($g->input('pixelX', Type::Float), 0.5 * $times * $width), $step);
        $flat = array_values(array_unique(array_column($lowered->taps(), 'face'))) === ['y'];
        $up = $g->mul($g->sub(($flat ? self::ABOVE_SLAB : self::ABOVE) * $times * $height, $g->input('pixelY', Type::Float)), $step);
        $plug = new PreviewCylinder($g, $x, $up, $g->float($step), self::RADIUS, $flat ? self::SLAB : \INF);
        $rewriter = new Rewriter($lowered->graph, $g, $plug->inputs);
        $channels = array_map($rewriter->rewrite(...), $lowered->channels);
        $lit = Light::lit($g, $channels, $plug->towardsViewer, Sky::of($g, SkyKind::ClearDay), $g->float(1));
        $colour = $g->select($plug->covered, Light::toned($g, $lit), $g->vec(0.105, 0.105, 0.105));
        $kernel = $this->compiler->compile($g, ['pixel' => Pixels::colour($g, $colour)], ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY]);

        $pixels = $kernel->run($lowered->uniforms(), $lowered->texels($this->maps), [], 0, 0, $times * $width, $times * $height)['pixel'][0];
        $image = new Image($times * $width, $times * $height, 4, array_map(intval(...), $pixels));

        return $times === 1 ? $image : Mips::half($image, MipFilter::Colour);
    }
}
