<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Pixels;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Field\Type;
use Rilta\Core\Material\Role;
use Rilta\Core\Target\Engine;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Program;

/**
 * Computes the maps of a recipe in bands of rows: first everything that follows from the point alone, and the heights; then, when all
 * heights are there, what follows from them.
 */
final class RecipeBake
{
    /** Pixels a band: about half a second of work. */
    private const BAND = 65536;

    /** Images that only serve to make others are called by this and the ingredient's id. */
    private const GROUND = 'ground-';
    private const HEIGHTS = 'heights';

    private readonly Program $points;

    /** @var array<string, array{Program, array<string, float|int>}> by role */
    private array $reliefs = [];

    /** @var array<string, list<int>> heights by ingredient */
    private array $heights = [];

    public function __construct(private readonly LoweredRecipe $lowered, private readonly int $size, private readonly Engine $engine)
    {
        $g = new Graph();
        $rewriter = new Rewriter($lowered->graph, $g, [LoweredRecipe::POINT => $this->point($g)]);
        $outputs = [];
        foreach ($lowered->recipe->grounds() as $id) {
            $outputs[self::GROUND . $id] = Pixels::deep($g, $rewriter->rewrite($lowered->values[$id]));
        }
        foreach ($lowered->outputs as $role => $field) {
            $outputs[$role] = self::pixel($g, Role::from($role), $rewriter->rewrite($field));
        }
        $this->points = $engine->compile($g, $outputs, ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY]);
    }

    /**
     * The bands, in an order that works: all of a pass before any of the next.
     *
     * @return list<array{pass: int, from: int, to: int}> first row and the row after the last
     */
    public static function bands(Recipe $recipe, int $size): array
    {
        $rows = max(1, intdiv(self::BAND, $size));
        $bands = [];
        foreach ($recipe->grounds() === [] ? [0] : [0, 1] as $pass) {
            for ($y = 0; $y < $size; $y += $rows) {
                $bands[] = ['pass' => $pass, 'from' => $y, 'to' => min($size, $y + $rows)];
            }
        }

        return $bands;
    }

    /**
     * One band.
     *
     * @param \Closure(string): string $whole all rows of an image of the pass before
     *
     * @return array<string, string> bytes as PNG has them, rows from the top, by the name of the image: a role, or something that only
     *                               serves the next pass
     */
    public function band(int $pass, int $from, int $to, \Closure $whole): array
    {
        $bytes = [];
        if ($pass === 0) {
            foreach ($this->points->run($this->lowered->uniforms(), [], [], 0, $from, $this->size, $to) as $name => $found) {
                $bytes[$name] = self::bytes($found[0], $this->channels($name));
            }

            return $bytes;
        }
        foreach ($this->lowered->recipe->outputs as $output) {
            if (Output::isRelief($output->role)) {
                $this->heights[$output->of] ??= self::words($whole(self::GROUND . $output->of));
                [$kernel, $uniforms] = $this->reliefs[$output->role->value] ??= $this->relief($output);
                $found = $kernel->run($uniforms, [self::HEIGHTS => $this->heights[$output->of]], [], 0, $from, $this->size, $to);
                $bytes[$output->role->value] = self::bytes($found['pixel'][0], $this->channels($output->role->value));
            }
        }

        return $bytes;
    }

    /**
     * All bands, one after the other.
     *
     * @return array<string, string> rows of bytes by the name of the image
     */
    public function whole(): array
    {
        $images = [];
        foreach (self::bands($this->lowered->recipe, $this->size) as $band) {
            foreach ($this->band($band['pass'], $band['from'], $band['to'], static fn (string $name): string => $images[$name]) as $name => $bytes) {
                $images[$name] = ($images[$name] ?? '') . $bytes;
            }
        }

        return $images;
    }

    /** Samples a pixel: 1, 3 or 4; 2 stands for one of 16 bits. */
    public function channels(string $name): int
    {
        $role = Role::tryFrom($name);

        return match (true) {
            $role === null, $role === Role::Height => 2,
            $role === Role::Normal => 3,
            Output::isColour($role) => ($this->lowered->recipe->output($role)->alpha ?? '') === '' ? 3 : 4,
            default => 1,
        };
    }

    /** @return array{Program, array<string, float|int>} and its numbers */
    private function relief(Output $output): array
    {
        $g = new Graph();
        $relief = Relief::of($g, $this->lowered->recipe, $output, new TextureBinding(self::HEIGHTS, $this->size, $this->size, 1, false, true, new Sampling('sharp', mips: false)));
        $rest = new Graph();
        $rewritten = (new Rewriter($g, $rest, [LoweredRecipe::POINT => $this->point($rest)]))->rewrite($relief->field);

        $program = $this->engine->compile($rest, ['pixel' => self::pixel($rest, $output->role, $rewritten)], ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY]);

        return [$program, LoweredRecipe::values($relief->slots) + [Relief::SIDE => (float) $this->size]];
    }

    /** vec2 of the pixel. */
    private function point(Graph $g): Node
    {
        return $g->mul($g->vec($g->input('pixelX', Type::Float), $g->input('pixelY', Type::Float)), 1 / $this->size);
    }

    private static function pixel(Graph $g, Role $role, Node $field): Node
    {
        return match (true) {
            Output::isColour($role) => $g->add(
                $g->bitAnd(Pixels::rgb($g, Colour::encode($g, $g->clamp($g->pick($field, 'xyz')))), $g->uint(0xFFFFFF)),
                $g->mul(Pixels::data($g, $g->w($field)), $g->uint(1 << 24)),
            ),
            $role === Role::Normal => Pixels::rgb($g, $field),
            $role === Role::Height => Pixels::deep($g, $field),
            default => Pixels::data($g, $field),
        };
    }

    /** @return list<int> */
    private static function words(string $bytes): array
    {
        $words = [];
        foreach (str_split($bytes, 32768) as $part) {
            foreach (unpack('n*', $part) ?: [] as $word) {
                $words[] = \is_int($word) ? $word : 0;
            }
        }

        return $words;
    }

    /** @param list<float|int> $pixels */
    private static function bytes(array $pixels, int $channels): string
    {
        $bytes = '';
        foreach (array_chunk($pixels, 16384) as $part) {
            $bytes .= pack(['1' => 'C*', '2' => 'n*'][(string) $channels] ?? 'V*', ...$part);
        }

        // Four bytes a pixel become three where alpha says nothing.
        return $channels === 3 ? (string) preg_replace('/(...)./s', '$1', $bytes) : $bytes;
    }
}
