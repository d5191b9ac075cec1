<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Php;

use Rilta\Core\Colour\Srgb;
use Rilta\Core\Target\Program;

/**
 * A compiled function of the graph's uniforms, maps and inputs.
 *
 * @phpstan-type Texels array<int, int>|\ArrayAccess<int, int>
 */
final readonly class Kernel implements Program
{
    /**
     * @param \Closure           $function as the Printer writes it
     * @param array<string, int> $outputs  the number of components of each output, in order
     */
    public function __construct(private \Closure $function, private array $outputs)
    {
    }

    public function run(array $uniforms, array $maps, array $inputs, int $x0, int $y0, int $x1, int $y1): array
    {
        /** @var list<list<float|int>> $flat */
        $flat = ($this->function)($uniforms, $maps, $inputs, Srgb::table(), $x0, $y0, $x1, $y1);
        $named = [];
        $at = 0;
        foreach ($this->outputs as $name => $width) {
            $named[$name] = \array_slice($flat, $at, $width);
            $at += $width;
        }

        return $named;
    }

    /**
     * Runs over a list of points.
     *
     * @param array<string, float|int>                              $uniforms
     * @param array<string, array<int, int>|\ArrayAccess<int, int>> $maps
     * @param array<string, array<int, float>>                      $inputs
     *
     * @return array<string, list<list<float|int>>>
     */
    public function points(int $count, array $uniforms, array $maps, array $inputs): array
    {
        return $this->run($uniforms, $maps, $inputs, 0, 0, $count, 1);
    }
}
