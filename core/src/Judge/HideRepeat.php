<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Material\Reader;
use Rilta\Core\Target\Php\Compiler;

/**
 * Looks for what hides the repeat of a material within a number of map reads: each change by itself, then the best of them together with
 * each of the others (a beam search).
 */
final readonly class HideRepeat
{
    /** Changes that are tried. */
    private const MOST = 32;
    /** Of those that are tried by themselves, with how many the search goes on. */
    private const BEAM = 4;
    private const OFFERS = 3;
    /** Map reads that may be allowed. */
    public const MOST_FETCHES = 256;
    /** By how much a score has to fall to be offered. */
    private const GAIN = 0.05;
    /** How much of its detail a surface has to keep. */
    private const KEPT = 0.7;
    /** What a read costs, as so much of the score: of what hides as much, the cheapest is the best. */
    private const READ = 0.004;
    /** Pixels of a picture, and how many repeats it shows. */
    private const PICTURE = [176, 88];
    private const REPEATS = 8.0;

    /** The most map reads that a pixel may cost. */
    public static function fetches(): NumberControl
    {
        return new NumberControl(new ControlMeta('fetches', 'Map reads', 'The most that a pixel may cost.'), Unit::None, 12.0, [4.0, 64.0], [1.0, self::MOST_FETCHES], 1.0, true, true);
    }

    public function __construct(private Reader $reader, private MapSets&MapTexels $maps, private Compiler $compiler)
    {
    }

    /**
     * @param array<mixed>             $document
     * @param int                      $fetches  the most map reads that a pixel may cost
     * @param \Closure(int, int): void $watch    is told how many changes have been tried, of how many
     *
     * @throws InvalidDocument if it is no document
     */
    public function search(array $document, int $fetches, \Closure $watch): HidingOffers
    {
        $read = $this->reader->salvage($document);
        $lowered = Lowering::salvage($read->material, $this->maps);
        $patch = new Patch($lowered, $this->maps, $this->compiler);
        $before = RepetitionCurve::of($patch, distances: RepetitionCurve::MANY);
        $worst = $before->worst();
        $least = \count($read->problems);

        $all = (new Hidings($this->maps, max(0.02, $worst->length)))->of($read->material);
        $tried = 0;
        $expected = min(self::MOST, 3 * \count($all));
        $try = function (Hiding $hiding) use ($document, $fetches, $least, $watch, &$tried, $expected): ?array {
            $watch($tried++, $expected);

            return $this->tried($hiding, $document, $fetches, $least);
        };
        $ranked = self::ranked(array_map($try, \array_slice($all, 0, self::MOST)));
        $both = [];
        foreach (\array_slice($ranked, 0, self::BEAM) as [, $one]) {
            foreach ($all as $other) {
                $pair = $one->and($other);
                if ($pair !== null && !isset($both[self::name($pair)]) && $tried < self::MOST) {
                    $both[self::name($pair)] = $try($pair);
                }
            }
        }
        $watch($tried, $tried);

        $metres = min(self::REPEATS * $worst->length, 4 * $worst->distance);
        $picture = static fn (Patch $one) => $one->picture($metres, $worst->distance, ...self::PICTURE);
        $texel = $patch->texel();
        $sharp = $texel === null ? null : Sharpness::of($patch, $texel);
        $offers = [];
        foreach (self::ranked([...$ranked, ...array_values($both)]) as [, $hiding, $cost]) {
            // Of one kind of change the best is enough.
            if (isset($offers[self::kind($hiding)]) || \count($offers) === self::OFFERS) {
                continue;
            }
            $patched = new Patch($this->lowered($hiding, $document), $this->maps, $this->compiler);
            $kept = $sharp === null || $texel === null ? [] : Sharpness::of($patched, $texel)->kept($sharp);
            if (min([1.0, ...array_values($kept)]) < self::KEPT) {
                continue;
            }
            $curve = RepetitionCurve::of($patched, distances: RepetitionCurve::MANY);
            if ($curve->worst()->score < $worst->score - self::GAIN) {
                $offers[self::kind($hiding)] = new HidingOffer($hiding, $curve, $cost, $kept, $picture($patched));
            }
            $watch($tried, $tried);
        }
        uasort($offers, static fn (HidingOffer $a, HidingOffer $b): int => self::rank($a->curve, $a->cost) <=> self::rank($b->curve, $b->cost));

        return new HidingOffers($before, Cost::of($lowered), $picture($patch), $metres, array_values($offers), $tried);
    }

    /**
     * @param array<mixed> $document
     *
     * @return ?array{float, Hiding, Cost} null for what costs too much, or is no material
     */
    private function tried(Hiding $hiding, array $document, int $fetches, int $problems): ?array
    {
        try {
            $read = $this->reader->salvage($hiding->change->applied($document));
            $lowered = Lowering::salvage($read->material, $this->maps);
        } catch (InvalidDocument) {
            return null;
        }
        if (\count($read->problems) > $problems || $lowered->fetches() > $fetches) {
            return null;
        }
        $cost = Cost::of($lowered);

        return [self::rank(RepetitionCurve::of(new Patch($lowered, $this->maps, $this->compiler)), $cost), $hiding, $cost];
    }

    /** The lower, the better. */
    private static function rank(RepetitionCurve $curve, Cost $cost): float
    {
        return $curve->worst()->score + self::READ * $cost->fetches;
    }

    /**
     * @param array<?array{float, Hiding, Cost}> $tried
     *
     * @return list<array{float, Hiding, Cost}> the best first
     */
    private static function ranked(array $tried): array
    {
        $found = array_values(array_filter($tried));
        usort($found, static fn (array $a, array $b): int => $a[0] <=> $b[0]);

        return $found;
    }

    /** @param array<mixed> $document */
    private function lowered(Hiding $hiding, array $document): Lowered
    {
        return Lowering::salvage($this->reader->salvage($hiding->change->applied($document))->material, $this->maps);
    }

    /** The same for what makes the same of a material. */
    private static function name(Hiding $hiding): string
    {
        $labels = $hiding->label;
        sort($labels);

        return implode("\n", $labels);
    }

    private static function kind(Hiding $hiding): string
    {
        $places = $hiding->places;
        sort($places);

        return implode("\n", $places);
    }
}
