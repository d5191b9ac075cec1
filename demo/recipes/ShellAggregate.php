<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Recipe\CodedRecipe;

/** Lime concrete full of broken shell: three mixes from one pit, more or less washed out. */
final readonly class ShellAggregate implements CodedRecipe
{
    /**
     * @param int   $seed   of all its noises
     * @param int   $shells across one repeat
     * @param float $washed how far the lime between the shells is worn away, 0…1
     */
    public function __construct(private string $name, private int $seed, private int $shells, private float $washed)
    {
    }

    public function name(): string
    {
        return $this->name;
    }

    public function extent(): float
    {
        return 1.2;
    }

    public function relief(): float
    {
        return 0.03;
    }

    public function fields(Graph $g, Node $uv): array
    {
        $seed = $this->seed;
        $low = Noise::fbm($g, $uv, 3, 4, 0.5, $seed);
        $sand = Noise::fbm($g, $uv, 90, 3, 0.6, $seed + 1);
        $bend = $g->vec(Noise::fbm($g, $uv, 9, 3, 0.5, $seed + 2), Noise::fbm($g, $uv, 9, 3, 0.5, $seed + 3));
        $layer = static function (int $cells, int $seed, float $bent) use ($g, $uv, $bend): array {
            $found = Noise::cellular($g, $g->mul($g->add($uv, $g->mul($bend, $bent)), (float) $cells), $g->vec($cells, $cells), $g->uint($seed));
            // Not every cell has a shell in it.
            $there = $g->smoothstep(0.42, 0.46, $g->z($found));
            $body = $g->mul($there, $g->sub(1.0, $g->smoothstep(0.34, 0.44, $g->x($found))));
            // Growth rings of half a shell.
            $rings = $g->abs($g->sub($g->fract($g->mul($g->x($found), $g->add(14.0, $g->mul($g->z($found), 9.0)))), 0.5));

            return [$body, $g->x($found), $g->z($found), $rings];
        };
        [$large, $far, $kind, $rings] = $layer($this->shells, $seed + 11, 0.045);
        [$small, $nearby, $tint] = $layer(3 * $this->shells, $seed + 12, 0.02);
        $small = $g->mul($small, $g->sub(1.0, $large));
        $pit = $g->smoothstep(0.10, 0.42, $g->add($low, $g->mul($sand, 0.15), 0.25 * $this->washed));

        $lime = $g->add(0.42, $g->mul($low, 0.12), $g->mul($sand, 0.06), -0.16 * $this->washed);
        $dome = $g->sub(1.0, $g->mul($g->mul($far, $far), 4.2));
        $height = $g->add($lime, $g->mul($large, $g->add(0.18 + 0.14 * $this->washed, $g->mul($dome, 0.14), $g->mul($rings, 0.05))));
        $height = $g->add($height, $g->mul($small, $g->sub(0.10 + 0.08 * $this->washed, $g->mul($nearby, 0.15))));
        $height = $g->sub($height, $g->mul($pit, 0.06));

        $colour = $g->mix(Colour::srgb($g, 168, 156, 136), Colour::srgb($g, 205, 196, 178), $g->clamp($g->add(0.5, $g->mul($low, 0.8), $g->mul($sand, 0.4))));
        $colour = $g->mix($colour, Colour::srgb($g, 128, 114, 94), $g->mul($pit, 0.35));
        $shell = $g->mix(Colour::srgb($g, 226, 214, 196), Colour::srgb($g, 176, 128, 108), $g->smoothstep(0.62, 0.9, $kind));
        $shell = $g->mix($shell, Colour::srgb($g, 96, 88, 104), $g->smoothstep(0.90, 0.96, $kind));
        $shell = $g->mul($shell, $g->add(0.88, $g->mul($rings, 0.3)));
        $colour = $g->mix($colour, $shell, $large);
        $colour = $g->mix($colour, $g->mix(Colour::srgb($g, 232, 224, 210), Colour::srgb($g, 140, 120, 108), $g->smoothstep(0.6, 0.9, $tint)), $g->mul($small, 0.9));
        $colour = $g->mul($colour, $g->add(1.0, $g->mul($sand, 0.14)));

        $roughness = $g->sub($g->add(0.86, $g->mul($sand, 0.1)), $g->mul($g->max($large, $g->mul($small, 0.7)), 0.34));

        return ['height' => $height, 'colour' => $colour, 'roughness' => $roughness];
    }
}
