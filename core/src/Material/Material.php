<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\MapControl;

/** The document, read and checked. What was left out for its mistakes is missing from the lists; keys are the places in the document. */
final readonly class Material
{
    public const FORMAT = 'rilta-material/1';

    /**
     * @param array<int, Parameter> $parameters
     * @param array<int, Lane>      $lanes
     * @param array<int, Layer>     $layers     from the ground up
     */
    public function __construct(public string $name, public array $parameters, public array $lanes, public array $layers)
    {
    }

    /** @return list<string> the names of all map sets that the document names */
    public function sets(): array
    {
        $names = [];
        foreach ($this->layers as $layer) {
            array_push($names, $layer->set, ...array_values($layer->faces));
        }
        foreach ($this->lanes as $lane) {
            foreach ($lane->steps as $use) {
                foreach ($use->kind->controls() as $control) {
                    if ($control instanceof MapControl) {
                        $names[] = explode('/', $use->values->choice($control->name()))[0];
                    }
                }
            }
        }

        return array_values(array_unique(array_filter($names)));
    }
}
