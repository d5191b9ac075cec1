<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\Reader;

/** What each part of a material costs: what it would save to switch it off. */
final readonly class Savings
{
    /** Parts that are told: each is a material of its own. */
    public const MOST = 48;

    public function __construct(private Reader $reader, private MapSets $maps)
    {
    }

    /**
     * @param array<mixed> $document
     *
     * @return array<string, Cost> what less it would cost without, by JSON Pointer to a step, a layer or a term of a mask; of the first 48
     */
    public function of(array $document): array
    {
        $material = $this->reader->salvage($document)->material;
        $whole = Cost::of(Lowering::salvage($material, $this->maps));
        $parts = $terms = [];
        foreach ($material->lanes as $l => $lane) {
            foreach ($lane->steps as $s => $use) {
                if ($use->on && !$use->kind->isOrigin()) {
                    $parts["/lanes/$l/steps/$s"] = Change::none()->put("/lanes/$l/steps/$s/on", false);
                }
            }
        }
        foreach ($material->layers as $i => $layer) {
            if ($layer->on) {
                $parts["/layers/$i"] = Change::none()->put("/layers/$i/on", false);
                foreach (array_keys($layer->mask) as $t) {
                    $terms["/layers/$i/mask/$t"] = Change::none()->remove("/layers/$i/mask/$t");
                }
            }
        }
        // Of very many, terms are left out before steps and layers.
        $parts = \array_slice($parts + $terms, 0, self::MOST);
        $saved = [];
        foreach ($parts as $path => $change) {
            try {
                $saved[$path] = Cost::of(Lowering::salvage($this->reader->salvage($change->applied($document))->material, $this->maps))->under($whole);
            } catch (InvalidDocument) {
                // Without it there is nothing that could be drawn.
            }
        }

        return $saved;
    }
}
