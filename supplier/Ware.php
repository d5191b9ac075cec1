<?php

declare(strict_types=1);

namespace Rilta\Supplier;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Recipe\CodedRecipe;

/** A made-up set of maps that the supplier has on offer. */
final readonly class Ware implements CodedRecipe
{
    /**
     * @param string               $id      lower case and hyphens
     * @param string               $kind    what it is sorted under
     * @param string               $licence of Wares::LICENCES
     * @param float                $extent  metres that one repeat covers
     * @param string               $look    "stones", "boards" or "ground"
     * @param int                  $count   stones or boards across one repeat
     * @param array{int, int, int} $light   sRGB, 0…255
     * @param array{int, int, int} $dark    sRGB, 0…255
     * @param float                $gloss   0…1
     */
    public function __construct(
        public string $id,
        public string $title,
        public string $kind,
        public string $about,
        public string $licence,
        private float $extent,
        private string $look,
        private int $count,
        private array $light,
        private array $dark,
        private float $gloss,
    ) {
    }

    /** @return array<string, mixed> */
    public function describe(): array
    {
        return [
            'id' => $this->id,
            'title' => $this->title,
            'kind' => $this->kind,
            'about' => $this->about,
            'extent' => $this->extent,
            'licence' => ['name' => $this->licence, 'text' => Wares::LICENCES[$this->licence]],
            'maps' => ['base colour', 'normal', 'roughness', 'occlusion', 'height'],
            'sides' => Wares::SIDES,
            'preview' => "/wares/$this->id/preview.png",
        ];
    }

    public function name(): string
    {
        return $this->id;
    }

    public function extent(): float
    {
        return $this->extent;
    }

    public function relief(): float
    {
        return 0.02 * $this->extent;
    }

    public function fields(Graph $g, Node $uv): array
    {
        $seed = hexdec(substr(hash('crc32b', $this->id), 0, 6));
        $seed = (int) $seed;
        $low = Noise::fbm($g, $uv, 3, 4, 0.5, $seed);
        $fine = Noise::fbm($g, $uv, 64, 3, 0.6, $seed + 1);
        $bend = $g->mul($g->vec(Noise::fbm($g, $uv, 5, 3, 0.5, $seed + 2), Noise::fbm($g, $uv, 5, 3, 0.5, $seed + 3)), 0.03);
        [$shape, $tone] = match ($this->look) {
            'stones' => $this->stones($g, $g->add($uv, $bend), $seed),
            'boards' => $this->boards($g, $uv, $seed),
            default => [$g->add(0.5, $g->mul($low, 0.5)), $g->add(0.5, $g->mul(Noise::ridged($g, $g->add($uv, $bend), $this->count, 4, 0.5, $seed + 5), 0.5))],
        };
        $height = $g->add($g->mul($shape, 0.7), $g->mul($low, 0.15), $g->mul($fine, 0.05));
        $share = $g->clamp($g->add($tone, $g->mul($low, 0.4), $g->mul($fine, 0.2)));
        $colour = $g->mul($g->mix(Colour::srgb($g, ...$this->dark), Colour::srgb($g, ...$this->light), $share), $g->add(0.55, $g->mul($g->smoothstep(0.0, 0.35, $shape), 0.45)));
        $roughness = $g->sub($g->add(1.0 - $this->gloss, $g->mul($fine, 0.15)), $g->mul($shape, 0.1));

        return ['height' => $height, 'colour' => $colour, 'roughness' => $roughness];
    }

    /** @return array{Node, Node} how high, and which tone, 0…1 */
    private function stones(Graph $g, Node $at, int $seed): array
    {
        $cells = Noise::cellular($g, $g->mul($at, (float) $this->count), $g->vec($this->count, $this->count), $g->uint($seed + 7));

        return [$g->smoothstep(0.02, 0.45, $g->sub($g->y($cells), $g->x($cells))), $g->z($cells)];
    }

    /** @return array{Node, Node} */
    private function boards(Graph $g, Node $uv, int $seed): array
    {
        $across = $g->mul($g->x($uv), (float) $this->count);
        $board = $g->floor($across);
        $edge = $g->abs($g->sub($g->fract($across), 0.5));
        $grain = Noise::gradient($g, $g->mul($uv, $g->vec(8.0 * $this->count, 6.0)), $g->vec(8.0 * $this->count, 6.0), $g->uint($seed + 8));
        $tone = $g->fract($g->mul($g->add($board, 1.0), 0.618));

        return [$g->sub(1.0, $g->smoothstep(0.44, 0.49, $edge)), $g->add($g->mul($tone, 0.6), 0.2, $g->mul($grain, 0.4))];
    }
}
