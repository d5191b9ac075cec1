<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Identifier;
use Rilta\Core\Material\Control\ReferenceControl;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Lane;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\MaskKind;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Problem;
use Rilta\Core\Material\StepUse;
use Rilta\Core\Surface\Surface;

/** Lanes → taps, step by step, with a station for each. What cannot be lowered is left out and told. */
final class LaneLowering
{
    /** @var list<Station> */
    private array $stations = [];

    /** @var list<Problem> */
    private array $problems = [];

    /** @var array<string, true> names of lanes in code */
    private array $prefixes = [];

    /** @param ?MultipassLowering $passes lowers each step by itself instead, where lanes come apart; null for the whole */
    public function __construct(private readonly Graph $graph, private readonly Surface $surface, private readonly UniformBindings $slots, private readonly TextureBindings $maps, private readonly MapSets $sets, private readonly ?MultipassLowering $passes)
    {
    }

    /** @return list<Station> lane after lane, step after step */
    public function stations(): array
    {
        return $this->stations;
    }

    /** @return list<Problem> */
    public function problems(): array
    {
        return $this->problems;
    }

    /** @return array<string, non-empty-list<Tap>> by the ids of lanes */
    public function all(Material $material): array
    {
        $taps = [];
        foreach ($material->lanes as $i => $lane) {
            $taps[$lane->id] = $this->lane($lane, "/lanes/$i", $this->coarsest($material, $lane));
        }

        return $taps;
    }

    /** @return non-empty-list<Tap> */
    private function lane(Lane $lane, string $path, ?Texels $coarsest): array
    {
        // Ids that differ in punctuation alone would make the same names.
        $prefix = Identifier::of($lane->id);
        while (isset($this->prefixes[$prefix])) {
            $prefix .= 'b';
        }
        $this->prefixes[$prefix] = true;
        $apart = $this->passes?->lane($lane, $path, $prefix, $coarsest);
        if ($apart !== null) {
            return $apart;
        }
        $taps = null;
        foreach ($lane->steps as $i => $use) {
            if ($use->on) {
                try {
                    $taps = $this->step($use, $taps, $coarsest, "$path/steps/$i", "{$prefix}_{$i}_" . Identifier::part($use->kind->name()));
                } catch (InvalidDocument $e) {
                    array_push($this->problems, ...$e->problems);
                }
            }
            $this->stations[] = new Station("$path/steps/$i", $use->kind->label(), $taps ?? throw new \LogicException('A lane without an origin.'));
        }

        return $taps;
    }

    /**
     * @param non-empty-list<Tap>|null $taps
     *
     * @return non-empty-list<Tap>
     */
    private function step(StepUse $use, ?array $taps, ?Texels $coarsest, string $path, string $name): array
    {
        if (!$use->kind instanceof Step) {
            throw new \LogicException($use->kind->name() . ' cannot be lowered.');
        }
        if ($taps !== null) {
            $this->room($path);
        }
        $taps = $use->kind->lower(new StepContext($this->graph, $this->surface, $this->slots, $this->maps, $use->values, $path, $name, $coarsest), $taps);
        if (\count($taps) > Lowering::MOST_TAPS) {
            throw InvalidDocument::at($path, \sprintf('%s makes %d taps of this lane; at most %d can be read. Use fewer faces, or one step that splits taps less', $use->kind->label(), \count($taps), Lowering::MOST_TAPS));
        }
        foreach ($taps as $tap) {
            $this->graph->named($name . '_' . $tap->name, $tap->at->uv);
            $this->graph->named($name . '_' . $tap->name . '_dx', $tap->at->dx);
            $this->graph->named($name . '_' . $tap->name . '_dy', $tap->at->dy);
        }

        return $taps;
    }

    /** Of all maps that the lane is read by: those of the layers on it, whatever they may be exchanged for, and of masks along it. */
    private function coarsest(Material $material, Lane $lane): ?Texels
    {
        $names = [];
        foreach ($material->layers as $layer) {
            if ($layer->lane === $lane->id) {
                array_push($names, $layer->set, ...array_values($layer->faces));
            }
            foreach ($layer->mask as $term) {
                if ($term->kind === MaskKind::Map && ($term->lane === '' ? $layer->lane : $term->lane) === $lane->id) {
                    $names[] = explode('/', $term->values->choice('map'))[0];
                }
            }
        }
        foreach ($lane->steps as $use) {
            foreach ($use->kind->controls() as $control) {
                if ($control instanceof ReferenceControl && $control->isFamily()) {
                    array_push($names, ...$this->sets->family($use->values->choice($control->name()))->sets ?? []);
                }
            }
        }
        $maps = array_map(fn (string $name): array => array_values($this->sets->find($name)?->images() ?? []), array_unique(array_filter($names)));

        return Texels::coarsest(array_merge(...array_values($maps)));
    }

    /** @throws InvalidDocument if the material has become too large, before any more time is spent on it */
    private function room(string $path): void
    {
        if ($this->graph->size() > Lowering::MOST_FIELDS) {
            throw InvalidDocument::at($path, \sprintf('with what comes before it the material is too large: it comes to more than %d operations. Take out steps, places or lanes', Lowering::MOST_FIELDS));
        }
    }
}
