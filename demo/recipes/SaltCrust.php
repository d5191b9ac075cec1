<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Recipe\CodedRecipe;

/** A dried salt flat: plates of crust with raised, sugary rims, silt in the cracks between them. */
final readonly class SaltCrust implements CodedRecipe
{
    private const PLATES = 7;

    /**
     * @param int   $seed of all its noises
     * @param float $silt how much more of it is silty than salt: 0 for the plain crust
     */
    public function __construct(private string $name = 'salt-crust', private int $seed = 300, private float $silt = 0.0)
    {
    }

    public function name(): string
    {
        return $this->name;
    }

    public function extent(): float
    {
        return 3.2;
    }

    public function relief(): float
    {
        return 0.06;
    }

    public function fields(Graph $g, Node $uv): array
    {
        $seed = $this->seed;
        $wander = $g->vec(Noise::fbm($g, $uv, 6, 5, 0.55, $seed + 1), Noise::fbm($g, $uv, 6, 5, 0.55, $seed + 2));
        $at = $g->mul($g->add($uv, $g->mul($wander, 0.05)), self::PLATES);
        $plates = Noise::cellular($g, $at, $g->vec(self::PLATES, self::PLATES), $g->uint($seed + 11));
        $edge = $g->sub($g->y($plates), $g->x($plates));
        $crackle = Noise::cellular($g, $g->mul($g->add($uv, $g->mul($wander, 0.035)), 26), $g->vec(26, 26), $g->uint($seed + 12));
        $minor = $g->sub(1.0, $g->smoothstep(0.0, 0.09, $g->sub($g->y($crackle), $g->x($crackle))));
        $crumbs = Noise::fbm($g, $uv, 80, 4, 0.65, $seed + 13);
        $low = Noise::fbm($g, $uv, 3, 4, 0.5, $seed + 14);

        $gap = $g->sub(1.0, $g->smoothstep(0.012, 0.05, $g->add($edge, $g->mul($crumbs, 0.03))));
        $rim = $g->mul($g->smoothstep(0.02, 0.10, $edge), $g->sub(1.0, $g->smoothstep(0.10, 0.36, $edge)));
        $rim = $g->mul($rim, $g->add(0.75, $g->mul($crumbs, 0.9)));
        $rise = $g->mul($g->z($plates), 0.10);

        $height = $g->add(0.36, $g->mul($low, 0.22), $g->mul($rim, 0.30), $rise, $g->mul($crumbs, 0.055));
        // Silt lies in the hollows and levels them.
        $height = $this->silt === 0.0 ? $height : $g->mix($height, $g->add(0.34, $g->mul($low, 0.12), $g->mul($crumbs, 0.03)), $g->mul($g->smoothstep(-0.1, 0.5, $g->add($low, $this->silt - 0.25)), 0.85));
        $height = $g->sub($height, $g->add($g->mul($gap, 0.20), $g->mul($minor, 0.035)));

        $white = $g->mix(Colour::srgb($g, 212, 204, 192), Colour::srgb($g, 238, 234, 227), $g->clamp($g->add(0.45, $g->mul($low, 0.9), $g->mul($crumbs, 0.5))));
        $silty = $g->smoothstep(0.05, 0.42, $g->add($g->mul($g->sub($g->z($plates), 0.5), 0.5), $low, $g->mul($crumbs, 0.2), $this->silt));
        $colour = $g->mix($white, Colour::srgb($g, 184, 166, 142), $g->mul($silty, 0.75));
        $colour = $g->mix($colour, Colour::srgb($g, 240, 238, 234), $g->mul($rim, 0.75));
        $colour = $g->mul($colour, $g->sub(1.0, $g->mul($minor, 0.16)));
        $colour = $g->mix($colour, Colour::srgb($g, 128, 107, 84), $g->mul($gap, 0.8));
        $colour = $g->mul($colour, $g->add(1.0, $g->mul($crumbs, 0.22)));

        $roughness = $g->sub($g->add(0.82, $g->mul($crumbs, 0.12), $g->mul($gap, 0.08)), $g->mul($rim, 0.22));

        return ['height' => $height, 'colour' => $colour, 'roughness' => $roughness];
    }
}
