<?php

declare(strict_types=1);

namespace Rilta\Core\Surface;

use Rilta\Core\Field\Type;

/** One thing that lanes and masks may ask of a surface point. */
final readonly class SurfaceInput
{
    /**
     * @param string      $of   what it comes from: another input, an attribute of the mesh by its name in glTF, an axis (x, y, z), a number of objects
     * @param string      $unit of people: "m", or "" for none
     * @param list<float> $none what it is where nothing says it
     */
    public function __construct(public string $name, public Type $type, public Source $source, public string $of, public string $unit, public array $none)
    {
    }
}
