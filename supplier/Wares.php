<?php

declare(strict_types=1);

namespace Rilta\Supplier;

/** Everything that the supplier has. */
final class Wares
{
    public const SIDES = [256, 512];

    public const LICENCES = [
        'Open hand' => 'You may use these maps for anything, alter them and pass them on. Nobody promises that they are good for it.',
        'Named hand' => 'You may use and alter these maps in your own works if you name “Saltings Surfaces” beside them. You may not sell the maps themselves.',
    ];

    /** @return list<Ware> */
    public static function all(): array
    {
        return [
            new Ware('harbour-cobble', 'Harbour Cobble', 'stone', 'Round cobbles of a slipway, worn by ropes.', 'Open hand', 1.6, 'stones', 7, [150, 146, 138], [78, 76, 74], 0.25),
            new Ware('mussel-shingle', 'Mussel Shingle', 'stone', 'Small dark pebbles with blue among them.', 'Named hand', 0.8, 'stones', 14, [120, 128, 142], [38, 42, 52], 0.4),
            new Ware('chalk-rubble', 'Chalk Rubble', 'stone', 'Broken chalk below the cliff.', 'Open hand', 2.4, 'stones', 5, [232, 228, 214], [182, 174, 152], 0.1),
            new Ware('oyster-bed', 'Oyster Bed', 'stone', 'Overlapping shells, grey and rose.', 'Named hand', 1.0, 'stones', 10, [206, 194, 184], [118, 100, 98], 0.35),
            new Ware('tarred-larch', 'Tarred Larch', 'wood', 'Boards of a boat shed, tarred every spring.', 'Open hand', 1.2, 'boards', 6, [64, 52, 44], [24, 20, 18], 0.3),
            new Ware('bleached-pine', 'Bleached Pine', 'wood', 'Decking that the sun has had for years.', 'Open hand', 1.5, 'boards', 10, [196, 184, 164], [132, 116, 96], 0.15),
            new Ware('painted-fence', 'Painted Fence', 'wood', 'Sea green paint over close boards.', 'Named hand', 1.8, 'boards', 12, [112, 158, 148], [52, 92, 88], 0.4),
            new Ware('tidal-mud', 'Tidal Mud', 'ground', 'Ripples left by the ebb.', 'Open hand', 2.0, 'ground', 6, [134, 118, 98], [70, 60, 50], 0.55),
            new Ware('dune-sand', 'Dune Sand', 'ground', 'Dry sand, combed by wind.', 'Open hand', 2.5, 'ground', 9, [226, 206, 166], [176, 150, 108], 0.1),
            new Ware('samphire-turf', 'Samphire Turf', 'ground', 'Low green on grey silt.', 'Named hand', 3.0, 'ground', 12, [132, 148, 84], [62, 70, 52], 0.1),
            new Ware('boiler-plate', 'Boiler Plate', 'metal', 'Rolled iron under thin rust.', 'Named hand', 1.0, 'ground', 4, [150, 104, 74], [62, 48, 44], 0.45),
            new Ware('zinc-sheet', 'Zinc Sheet', 'metal', 'Dull sheet with standing seams.', 'Open hand', 2.4, 'boards', 4, [178, 184, 188], [120, 128, 134], 0.6),
        ];
    }

    public static function find(string $id): ?Ware
    {
        foreach (self::all() as $ware) {
            if ($ware->id === $id) {
                return $ware;
            }
        }

        return null;
    }
}
