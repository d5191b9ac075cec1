<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Material\Lane;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\StepUse;
use Rilta\Core\Material\Values;

/** What could hide the repeat of a material: steps that its lanes lack, and other numbers of those that they have. */
final readonly class Hidings
{
    /** Lanes that are looked at. */
    private const LANES = 3;
    /** Of pictures that lie at one place, or of which each is a picture by itself. */
    private const SINGLE = ['place', 'sheet', 'frames'];

    /** @param float $length metres after which the surface comes again */
    public function __construct(private MapSets $maps, private float $length)
    {
    }

    /** @return list<Hiding> */
    public function of(Material $material): array
    {
        $worn = [];
        foreach ($material->layers as $layer) {
            if ($layer->on && $layer->set !== '') {
                $worn[$layer->lane][] = $layer->set;
            }
        }
        $found = [];
        $lanes = 0;
        foreach ($material->lanes as $l => $lane) {
            $kinds = array_map(static fn (StepUse $use): string => $use->on ? $use->kind->name() : '', array_values($lane->steps));
            if (isset($worn[$lane->id]) && array_intersect($kinds, self::SINGLE) === [] && ++$lanes <= self::LANES) {
                $on = \count($material->lanes) > 1 ? " on “{$lane->name}”" : '';
                $found = [...$found, ...$this->added($l, $kinds, $worn[$lane->id], $on), ...$this->changed($l, $lane, $on)];
            }
        }

        return $found;
    }

    /**
     * @param list<string> $kinds steps that the lane has
     * @param list<string> $sets  that lie along it
     *
     * @return list<Hiding>
     */
    private function added(int $l, array $kinds, array $sets, string $on): array
    {
        $add = static fn (string $step, array $values, string $label): Hiding => new Hiding([$label . $on], ["$l $step"], Change::none()->add("/lanes/$l/steps/-", ['step' => $step, 'values' => $values]));
        $has = static fn (string $kind): bool => \in_array($kind, $kinds, true);
        $found = [];
        // What is laid in pieces stays whole: cells would cut through them.
        if ($has('bond')) {
            if (!$has('scatter')) {
                $found[] = $add('scatter', ['by' => 'piece', 'shift' => 100], 'Scatter by piece');
                $found[] = $add('scatter', ['by' => 'piece', 'shift' => 100, 'brightness' => 12], 'Scatter by piece, with brightness');
            }
        } else {
            foreach ($has('breakup') ? [] : [0.6, 1.3] as $times) {
                $found[] = $add('breakup', ['cell' => $cell = self::rounded($times * $this->length, 0.02, 500.0), 'feather' => 8], \sprintf('Breakup in cells of %s m', $cell));
            }
            foreach ($has('hex-blend') ? [] : [0.4, 0.8] as $times) {
                $found[] = $add('hex-blend', ['cell' => $cell = self::rounded($times * $this->length, 0.02, 500.0), 'sharpness' => 11], \sprintf('Hex blend over %s m', $cell));
            }
        }
        if (!$has('scales')) {
            $found[] = $add('scales', ['count' => 'two', 'by' => 'noise', 'patch' => $patch = self::rounded(1.5 * $this->length, 0.02, 500.0), 'size2' => 2.7], \sprintf('Two sizes in patches of %s m', $patch));
            $found[] = $add('scales', ['count' => 'two', 'by' => 'distance', 'near' => $near = self::rounded(2 * $this->length, 0.02, 500.0), 'far' => $far = self::rounded(30 * $this->length, 0.04, 5000.0)], \sprintf('Two sizes from %s to %s m away', $near, $far));
            $found[] = $add('scales', ['count' => 'three', 'by' => 'noise', 'patch' => $patch, 'size2' => 1.7, 'size3' => 3.9], \sprintf('Three sizes in patches of %s m', $patch));
        }
        foreach ($has('choose') ? [] : $this->maps->families() as $name) {
            if (array_intersect($sets, $this->maps->family($name)->sets ?? []) !== []) {
                $found[] = $has('bond')
                    ? $add('choose', ['family' => $name, 'by' => 'piece'], "Choose one of “{$name}” a piece")
                    : $add('choose', ['family' => $name, 'by' => 'noise', 'size' => $patch = self::rounded(0.8 * $this->length, 0.02, 500.0)], \sprintf('Choose one of “%s” in patches of %s m', $name, $patch));
            }
        }

        return $found;
    }

    /** @return list<Hiding> */
    private function changed(int $l, Lane $lane, string $on): array
    {
        $found = [];
        foreach ($lane->steps as $s => $use) {
            $name = $use->kind->name();
            if (!$use->on) {
                continue;
            }
            $put = static fn (string $value, float $number, string $label): Hiding => new Hiding([$label . $on], ["$l $name"], Change::none()->put("/lanes/$l/steps/$s/values/$value", $number));
            if (\in_array($name, ['breakup', 'hex-blend'], true) && self::free($use->values, 'cell')) {
                foreach ([0.5, 2.0] as $times) {
                    $cell = self::rounded($times * $use->values->number('cell'), 0.001, 10000.0);
                    $found[] = $put('cell', $cell, \sprintf('%s in cells of %s m', $use->kind->label(), $cell));
                }
            }
            if ($name === 'scales' && $use->values->choice('by') === 'noise' && self::free($use->values, 'patch')) {
                foreach ([0.5, 2.0] as $times) {
                    $patch = self::rounded($times * $use->values->number('patch'), 0.001, 10000.0);
                    $found[] = $put('patch', $patch, \sprintf('Sizes in patches of %s m', $patch));
                }
            }
            if (\in_array($name, ['breakup', 'scatter'], true) && self::free($use->values, 'shift') && $use->values->number('shift') < 100.0) {
                $found[] = $put('shift', 100.0, $use->kind->label() . ' with a shift of 100 %');
            }
        }

        return $found;
    }

    /** Whether a number is its step's own, and no parameter drives it. */
    private static function free(Values $values, string $name): bool
    {
        return $values->tie($name) === null;
    }

    /** To three digits, within bounds. */
    private static function rounded(float $number, float $least, float $most): float
    {
        return max($least, min($most, (float) \sprintf('%.3g', $number)));
    }
}
