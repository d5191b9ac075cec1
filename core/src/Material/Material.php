<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\ReferenceControl;

/** The document, read and checked. What was left out for its mistakes is missing from the lists; keys are the places in the document. */
final readonly class Material
{
    public const FORMAT = 'rilta-material/2';

    public SurfaceKind $cover;

    /**
     * @param array<int, Parameter> $parameters
     * @param array<int, Lane>      $lanes
     * @param array<int, Layer>     $layers     from the ground up; those of one group next to each other
     * @param list<LayerGroup>      $groups
     */
    public function __construct(public string $name, public array $parameters, public array $lanes, public array $layers, public Variants $variants = new Variants([], []), ?SurfaceKind $cover = null, public array $groups = [])
    {
        $this->cover = $cover ?? SurfaceKind::plain();
    }

    /** @return list<string> the names of all map sets that the document names, in any variant, other than through families */
    public function sets(): array
    {
        $names = $this->references(false);
        foreach ($this->parameters as $parameter) {
            if (\in_array($parameter->kind, [ParameterKind::Map, ParameterKind::Set], true)) {
                array_push($names, $parameter->value, ...array_map(static fn (Variant $variant): mixed => $variant->values[$parameter->id] ?? '', array_values($this->variants->all)));
            }
        }
        $names = array_map(static fn (mixed $name): string => \is_string($name) ? explode('/', $name)[0] : '', $names);
        foreach ($this->layers as $layer) {
            array_push($names, $layer->set, ...array_values($layer->faces));
        }

        return array_values(array_unique(array_filter($names)));
    }

    /** @return list<string> the names of all families that the document names */
    public function families(): array
    {
        return array_values(array_unique(array_filter($this->references(true))));
    }

    /** @return list<string> what steps and masks name: families, or else maps and map sets */
    private function references(bool $families): array
    {
        $names = [];
        $valued = [];
        foreach ($this->lanes as $lane) {
            foreach ($lane->steps as $use) {
                $valued[] = [$use->kind->controls(), $use->values];
            }
        }
        foreach ($this->layers as $layer) {
            foreach ($layer->mask as $term) {
                $valued[] = [$term->kind->controls(), $term->values];
            }
        }
        foreach ($valued as [$controls, $values]) {
            foreach ($controls as $control) {
                if ($control instanceof ReferenceControl && $control->isOfLibrary() && $control->isFamily() === $families) {
                    $names[] = $values->choice($control->name());
                }
            }
        }

        return $names;
    }
}
