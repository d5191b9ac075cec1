<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

/** What a lane comes to at its end: who rides on it and what that costs. */
final readonly class LaneCost
{
    /**
     * @param int          $taps       read positions
     * @param int          $fetches    the most map reads that one pixel can cost in the layers on this lane, of what they write
     * @param list<string> $maps       names of the maps that are read along it
     * @param list<string> $directions sides of the projection that may read map sets of their own
     * @param list<string> $layers     paths of the layers on it, from the ground up
     */
    private function __construct(public int $taps, public int $fetches, public array $maps, public array $directions, public array $layers)
    {
    }

    /**
     * @param string $path JSON Pointer to the lane
     * @param string $id   of the lane
     */
    public static function of(Lowered $lowered, string $path, string $id): self
    {
        $taps = [];
        foreach ($lowered->stations as $station) {
            if (str_starts_with($station->path, "$path/steps/")) {
                $taps = $station->taps;
            }
        }
        $fields = [];
        $maps = [];
        $layers = [];
        foreach ($lowered->layers as $laid) {
            if ($laid->layer->lane === $id) {
                array_push($fields, ...array_values($laid->parts), ...array_values($laid->cover));
                $layers[] = $laid->path;
                foreach ($laid->maps() as $map) {
                    $maps[$map->name] = true;
                }
            }
        }

        $directions = array_filter(array_map(static fn (Tap $tap): string => $tap->direction(), $taps));

        return new self(\count($taps), $lowered->needed(...$fields), array_keys(array_intersect_key($lowered->maps, $maps)), array_values(array_unique($directions)), $layers);
    }
}
