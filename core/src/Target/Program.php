<?php

declare(strict_types=1);

namespace Rilta\Core\Target;

/** A compiled function of the graph's uniforms, maps and inputs. */
interface Program
{
    /**
     * Runs over the pixels of a rectangle, row by row.
     *
     * @param array<string, float|int>                              $uniforms components of vectors as "name.x"
     * @param array<string, array<int, int>|\ArrayAccess<int, int>> $maps     packed texels of all levels, by slot name
     * @param array<string, array<int, float>>                      $inputs   flat lists, by input name
     *
     * @return array<string, list<list<float|int>>> for each output, one list a component
     */
    public function run(array $uniforms, array $maps, array $inputs, int $x0, int $y0, int $x1, int $y1): array;
}
