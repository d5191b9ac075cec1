<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\StepUse;
use Rilta\Core\Surface\Surface;

/**
 * One step on its own: what it makes of any tap that it is handed, in a graph that is the same wherever in a lane the step stands.
 * An origin is handed the surface.
 */
final readonly class StepPass
{
    /** What passes after the origin may ask of the surface. */
    public const SURFACE = ['objectSeed', 'objectValue', 'section', 'viewDistance'];

    /** What its names begin with. */
    private const NAME = 'step';

    /**
     * @param non-empty-list<array<string, Node>> $taps    the parts of each tap that it makes
     * @param list<UniformBinding>                $numbers its own, with paths from the step on
     * @param list<UniformBinding>                $shared  those of parameters, with paths in the document
     * @param Prelude                             $prelude uniforms that follow from the others
     * @param bool                                $clock   whether it reads the clock
     * @param list<string>                        $fixed   JSON Pointers of values that it was made by
     */
    private function __construct(public bool $origin, public Graph $graph, public array $taps, public array $numbers, public array $shared, public Prelude $prelude, public bool $clock, public array $fixed)
    {
    }

    /**
     * @param string $path JSON Pointer to the step
     *
     * @throws NotMultipassable if it needs more than what is handed on
     */
    public static function of(StepUse $use, MapSets $sets, string $path, ?Texels $coarsest = null): self
    {
        $step = $use->kind instanceof Step ? $use->kind : throw new \LogicException($use->kind->name() . ' cannot be lowered.');
        $graph = new Graph();
        $slots = new UniformBindings();
        $maps = new TextureBindings($sets);
        try {
            $taps = $step->lower(new StepContext($graph, new Surface($graph), $slots, $maps, $use->values, $path, self::NAME, $coarsest), $step->isOrigin() ? null : [TapRecord::tap($graph)]);
        } catch (InvalidDocument $e) {
            throw new NotMultipassable("{$use->kind->label()} cannot be lowered.", previous: $e);
        }
        $parts = array_map(static fn (Tap $tap): array => TapRecord::parts($graph, $tap), $taps);
        $fields = array_merge(...array_map(array_values(...), $parts));
        $asked = array_diff(Reachable::names(Op::Input, $fields), self::SURFACE, array_map(TapRecord::input(...), array_keys(TapRecord::PARTS)));
        if ($maps->slots() !== [] || (!$step->isOrigin() && $asked !== [])) {
            throw new NotMultipassable("{$use->kind->label()} needs maps or a surface on its way.");
        }
        $own = array_filter($slots->all(), static fn (UniformBinding $slot): bool => str_starts_with($slot->path, "$path/"));

        return new self(
            $step->isOrigin(),
            $graph,
            $parts,
            array_values(array_map(static fn (UniformBinding $slot): UniformBinding => new UniformBinding($slot->uniform, substr($slot->path, \strlen($path)), $slot->value, $slot->type), $own)),
            array_values(array_diff_key($slots->all(), $own)),
            $slots->prelude(),
            \in_array(Clock::UNIFORM, Reachable::names(Op::Uniform, $fields), true) || $slots->prelude()->reads(Clock::UNIFORM),
            $slots->fixed(),
        );
    }

    /**
     * The parts that are another than what it was handed.
     *
     * @return list<string>
     */
    public function changes(): array
    {
        return array_values(array_filter(array_keys(TapRecord::PARTS), function (string $part): bool {
            foreach ($this->taps as $tap) {
                if ($tap[$part]->op !== Op::Input || $tap[$part]->name() !== TapRecord::input($part)) {
                    return true;
                }
            }

            return false;
        }));
    }
}
