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

    /** What it is, in words. */
    public function meaning(): string
    {
        $set = preg_match('/(\d)/', $this->of, $number) === 1 ? (int) $number[1] + 1 : 1;

        return match ($this->source) {
            Source::Position => 'the point, in the world',
            Source::Normal => 'the unit normal of the mesh, in the world, towards the eye',
            Source::Right => "how $this->of changes to the next pixel on the right",
            Source::Down => "how $this->of changes to the next pixel below",
            Source::Vertex => $this->of === Surface::PAINT ? 'what was painted, four channels of 0 to 1' : "UV set $set",
            Source::Flat => 'the number of the section of the mesh',
            Source::Direction => 'the direction in which ' . (str_ends_with($this->of, 'U') ? 'u' : 'v') . " of UV set $set grows, of length 1, in the world",
            Source::Origin => 'where the object stands, in the world',
            Source::Axis => "the $this->of axis of the object, of length 1, in the world",
            Source::Object => "the object's $this->of",
            Source::Distance => 'how far the eye is away',
            Source::Facing => '1 for a front, -1 for a back',
        } . ($this->unit === '' ? '' : ", $this->unit");
    }
}
