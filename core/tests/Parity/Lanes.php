<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Parity;

use Rilta\Core\Tests\Documents;

/** Lanes that the parity suite compares by name: every step in every mode. */
final class Lanes
{
    /** @return array<string, list<array<string, mixed>>> */
    public static function all(): array
    {
        $lanes = [];
        foreach (['xyz', 'xz', 'x', 'y', 'z'] as $faces) {
            foreach (['world', 'object'] as $space) {
                foreach ([0.0, 24.0, 90.0] as $seam) {
                    $lanes["origin, $space, $faces, seam $seam"] = [Documents::step('origin', ['space' => $space, 'faces' => $faces, 'seam' => $seam])];
                }
            }
        }
        $lanes['origin, mesh'] = [Documents::step('origin', ['space' => 'mesh'])];
        $lanes['size, linked'] = [Documents::step('origin', ['seam' => 40.0]), Documents::step('size', ['u' => 0.75])];
        $lanes['size, separate'] = [Documents::step('origin', ['space' => 'mesh']), Documents::step('size', ['linked' => false, 'u' => 0.3, 'v' => 7.0])];

        foreach (self::modes() as $name => $step) {
            $lanes[$name] = [Documents::step('origin', ['seam' => 30.0]), Documents::step('size', ['linked' => false, 'u' => 0.8, 'v' => 1.3]), $step];
        }

        return $lanes;
    }

    /** @return iterable<string, array{step: string, values: array<string, mixed>}> */
    private static function modes(): iterable
    {
        yield 'size, repeats' => Documents::step('size', ['by' => 'repeats', 'countU' => 2.5]);
        yield 'turn' => Documents::step('turn', ['angle' => 33.0, 'pivotU' => 0.25, 'pivotV' => -0.5]);
        yield 'shift, repeats' => Documents::step('shift', ['u' => 0.3, 'v' => -0.2]);
        yield 'shift, metres' => Documents::step('shift', ['in' => 'metres', 'u' => 0.3, 'v' => -0.2]);
        yield 'mirror, all' => Documents::step('mirror', ['u' => 'all', 'v' => 'all']);
        yield 'mirror, other' => Documents::step('mirror', ['u' => 'other', 'v' => 'other']);
        yield 'pan, repeats' => Documents::step('pan', ['u' => 0.37, 'v' => -1.9]);
        yield 'pan, metres' => Documents::step('pan', ['in' => 'metres', 'u' => 0.37, 'v' => 2.25]);
        yield 'pan, stepped' => Documents::step('pan', ['u' => 0.37, 'v' => -0.6, 'motion' => 'stepped', 'frames' => 12]);
        foreach (['loop', 'swing', 'once'] as $play) {
            foreach (['cut', 'fade'] as $change) {
                yield "frames, $play, $change" => Documents::step('frames', ['play' => $play, 'change' => $change, 'rate' => 7.5, 'count' => 13, 'first' => 2]);
            }
        }
        yield 'reach, pad' => Documents::step('reach', ['x' => 0.7, 'y' => -0.3, 'rangeV' => 80.0]);
        yield 'reach, eased' => Documents::step('reach', ['input' => 'time', 'period' => 3.3]);
        yield 'reach, even' => Documents::step('reach', ['input' => 'time', 'motion' => 'even', 'period' => 7.0]);
        yield 'reach, object' => Documents::step('reach', ['input' => 'object', 'rangeV' => -60.0, 'seed' => 12]);
        foreach (['hand', 'object', 'piece'] as $by) {
            yield "cell, $by" => Documents::step('cell', ['by' => $by, 'column' => 2, 'row' => 1, 'gutter' => 3.0]);
        }
        foreach (['repeat', 'mirror', 'hold', 'nothing'] as $outside) {
            yield "place, $outside" => Documents::step('place', ['outside' => $outside, 'u' => 0.2, 'width' => 2.5, 'height' => 1.5, 'turn' => 20.0, 'repeatsU' => 2.0]);
        }
        $jumble = ['shift' => 80.0, 'turn' => 120.0, 'size' => 30.0, 'brightness' => 20.0, 'hue' => 25.0, 'saturation' => 40.0, 'seed' => 4000000007];
        yield 'scatter' => Documents::step('scatter', $jumble);
        yield 'scatter, quarter turns, flipped' => Documents::step('scatter', ['turnBy' => 'quarter', 'flip' => true] + $jumble);
        yield 'breakup' => Documents::step('breakup', ['cell' => 0.9] + $jumble);
        yield 'breakup, hard' => Documents::step('breakup', ['cell' => 0.9, 'feather' => 0.0, 'contrast' => false] + $jumble);
        yield 'hex blend' => Documents::step('hex-blend', ['turn' => 90.0, 'seed' => 77]);
        foreach (['distance', 'noise', 'share'] as $by) {
            yield "scales, $by" => Documents::step('scales', ['by' => $by, 'count' => 'four', 'share' => 37.0, 'far' => 200.0]);
        }
        foreach (['running', 'stack', 'thirds', 'herringbone', 'hexagon'] as $laid) {
            foreach (['surface', 'piece'] as $coordinate) {
                yield "bond, $laid, $coordinate" => Documents::step('bond', ['laid' => $laid, 'coordinate' => $coordinate, 'direction' => 15.0, 'joint' => 0.03, 'bevel' => 0.03]);
            }
        }
        yield 'warp' => Documents::step('warp', ['amount' => 0.2, 'size' => 0.7, 'seed' => 9]);
    }
}
