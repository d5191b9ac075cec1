<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\Role;
use Rilta\Core\Raster\MipLayout;
use Rilta\Core\Target\Pass\Scalariser;

/** What a pixel of a material costs, counted from its graph, and what its maps weigh. */
final readonly class Cost
{
    /** Operations that a device has no instruction for, or that take as long as several. */
    private const SPECIAL = [Op::Div, Op::Pow, Op::Atan2, Op::Sqrt, Op::Exp2, Op::Log2, Op::Sin, Op::Cos];
    /** Operations that one of the others, and one map read, take as long as. */
    private const AS_SPECIAL = 4;
    private const AS_FETCH = 60.0;

    /** As many operations as those of all kinds take as long as. */
    public int $operations;

    /** The same with map reads. */
    public float $estimate;

    /**
     * @param int $taps       read positions
     * @param int $fetches    the most map reads that one pixel can cost
     * @param int $textures   maps that are read
     * @param int $bytes      of the maps with all mip levels, as they are kept without compression; each once, however often it is read
     * @param int $compressed the same in blocks: BC7 for colours and what has several channels, BC5 for normals, BC4 for one channel
     * @param int $arithmetic operations on single numbers that differ from pixel to pixel: sums, products, comparisons
     * @param int $special    divisions, roots, powers, sines
     * @param int $whole      operations on whole numbers, which chance is made of
     */
    public function __construct(public int $taps, public int $fetches, public int $textures, public int $bytes, public int $compressed, public int $arithmetic, public int $special, public int $whole)
    {
        $this->operations = $arithmetic + $whole + self::AS_SPECIAL * $special;
        $this->estimate = $this->operations + self::AS_FETCH * $fetches;
    }

    public static function of(Lowered $lowered): self
    {
        $counts = ['arithmetic' => 0, 'special' => 0, 'whole' => 0];
        $scalariser = new Scalariser($lowered->graph);
        $scalars = array_merge(...array_map($scalariser->scalarise(...), array_values($lowered->channels)));
        $differs = [];
        foreach (Reachable::from($scalars) as $id => $node) {
            $differs[$id] = Prelude::never($node->op) || array_filter($node->args, static fn (Node $arg): bool => $differs[$arg->id]) !== [];
            $kind = $differs[$id] ? self::kind($node) : null;
            if ($kind !== null) {
                ++$counts[$kind];
            }
        }
        $bytes = $compressed = 0;
        foreach ($lowered->maps as $name => $map) {
            $texels = (new MipLayout($map->width, $map->height))->texels;
            $bytes += $texels * $map->texelBytes();
            $compressed += (int) ceil($texels * self::blocks($lowered->facts[$name] ?? null));
        }

        return new self(\count($lowered->taps()), $lowered->fetches(), \count($lowered->maps), $bytes, $compressed, ...$counts);
    }

    /** What is less than in another. */
    public function under(self $other): self
    {
        return new self($other->taps - $this->taps, $other->fetches - $this->fetches, $other->textures - $this->textures, $other->bytes - $this->bytes, $other->compressed - $this->compressed, $other->arithmetic - $this->arithmetic, $other->special - $this->special, $other->whole - $this->whole);
    }

    /** @return 'arithmetic'|'special'|'whole'|null null for what is no operation */
    private static function kind(Node $node): ?string
    {
        return match (true) {
            \in_array($node->op, [Op::Constant, Op::Input, Op::Uniform, Op::Param, Op::Vec, Op::Pick, Op::Sample, Op::SampleLevel, Op::Call], true) => null,
            \in_array($node->op, self::SPECIAL, true) => 'special',
            $node->type->scalar() === Type::Uint => 'whole',
            default => 'arithmetic',
        };
    }

    /** @return float bytes a texel */
    private static function blocks(?MapFacts $map): float
    {
        return match (true) {
            $map === null, $map->role === Role::Normal, $map->slot()->samples > 1 => 1.0,
            default => 0.5,
        };
    }
}
