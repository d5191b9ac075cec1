<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Parity;

use Rilta\Core\Material\LayerMode;
use Rilta\Core\Tests\Documents;

/** Lanes that the parity suite compares by name: every step in every mode. */
final class Lanes
{
    /**
     * The size of a map that bends: so large that no mip levels are mixed. A bend's slope is the difference of two
     * texels, and texture units mix levels in steps of 1/256, which a difference magnifies beyond what is near.
     */
    public const UNMIXED = ['size' => 40.0, 'sizeRepeats' => 40.0];

    /** @return array<string, list<array<string, mixed>>> */
    public static function all(): array
    {
        $lanes = [];
        foreach (['xyz', 'xz', 'xy', 'yz', 'x', 'y', 'z'] as $faces) {
            foreach (['world', 'object'] as $space) {
                foreach ([0.0, 24.0, 90.0] as $seam) {
                    $lanes["origin, $space, $faces, seam $seam"] = [Documents::step('origin', ['space' => $space, 'faces' => $faces, 'seam' => $seam])];
                }
            }
        }
        foreach (['world', 'object'] as $space) {
            $frame = ['frame' => 'own', 'positionX' => 0.4, 'positionY' => -1.2, 'positionZ' => 2.0, 'turnX' => 25.0, 'turnY' => -40.0, 'turnZ' => 110.0];
            $lanes["origin, $space, own frame"] = [Documents::step('origin', ['space' => $space] + $frame)];
            $lanes["origin, $space, six, by height"] = [Documents::step('origin', ['space' => $space, 'faces' => 'six', 'lean' => true, 'bias' => 0.6, 'seam' => 50.0])];
        }
        $lanes['origin by height, broken up'] = [Documents::step('origin', ['lean' => true, 'bias' => -0.4]), Documents::step('hex-blend')];
        foreach (['second', 'third', 'fourth'] as $set) {
            $lanes["origin, $set mesh UV"] = [Documents::step('origin', ['space' => 'mesh', 'uvSet' => $set])];
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
        yield 'cell, as a set is cut' => Documents::step('cell', ['cut' => 'sheet', 'sheet' => 'sheet', 'rectangle' => 1.0]);
        yield 'frames, as a set is cut' => Documents::step('frames', ['cut' => 'sheet', 'sheet' => 'sheet', 'count' => 2.0]);
        foreach (['loop', 'swing', 'once'] as $play) {
            foreach (['cut', 'fade'] as $change) {
                yield "frames, $play, $change" => Documents::step('frames', ['play' => $play, 'change' => $change, 'rate' => 7.5, 'count' => 13, 'first' => 2]);
            }
        }
        yield 'reach, pad' => Documents::step('reach', ['x' => 0.7, 'y' => -0.3, 'rangeV' => 80.0]);
        yield 'reach, eased' => Documents::step('reach', ['input' => 'time', 'period' => 3.3]);
        yield 'reach, even' => Documents::step('reach', ['input' => 'time', 'motion' => 'even', 'period' => 7.0]);
        yield 'reach, object' => Documents::step('reach', ['input' => 'object', 'rangeV' => -60.0, 'seed' => 12]);
        yield 'reach, number, curve' => Documents::step('reach', ['input' => 'number', 'amount' => 0.3, 'rangeV' => 50.0, 'response' => 'curve', 'curve' => [['x' => -1.0, 'y' => 0.5], ['x' => 0.2, 'y' => -0.4], ['x' => 0.9, 'y' => 1.0]]]);
        yield 'reach, value' => Documents::step('reach', ['input' => 'value', 'rangeV' => -60.0]);
        foreach (['eased', 'even'] as $motion) {
            yield "reach, keys, $motion" => Documents::step('reach', ['input' => 'keys', 'motion' => $motion, 'rangeV' => 100.0, 'keys' => [['at' => 0.0, 'x' => 0.3, 'y' => -1.0], ['at' => 1.5, 'x' => -0.8, 'y' => 0.2], ['at' => 4.0, 'x' => 0.3, 'y' => -1.0]]]);
        }
        foreach (['hand', 'number', 'place', 'object', 'piece'] as $by) {
            yield "cell, rectangles, $by" => Documents::step('cell', ['cut' => 'rectangles', 'by' => $by, 'index' => 1, 'rectangle' => 2, 'rectangles' => [
                ['name' => 'A', 'x' => 0.0, 'y' => 0.0, 'width' => 30.0, 'height' => 40.0],
                ['name' => 'B', 'x' => 40.0, 'y' => 10.0, 'width' => 60.0, 'height' => 20.0],
                ['name' => 'C', 'x' => 10.0, 'y' => 60.0, 'width' => 25.0, 'height' => 25.0],
            ]]);
        }
        foreach (['hand', 'number', 'place', 'object', 'piece'] as $by) {
            yield "cell, $by" => Documents::step('cell', ['by' => $by, 'column' => 2, 'row' => 1, 'index' => 7, 'gutter' => 3.0]);
        }
        foreach (['repeat', 'mirror', 'hold', 'colour', 'nothing'] as $outside) {
            yield "place, $outside" => Documents::step('place', ['outside' => $outside, 'u' => 0.2, 'width' => 2.5, 'height' => 1.5, 'turn' => 20.0, 'repeatsU' => 2.0]);
        }
        $jumble = ['shift' => 80.0, 'turn' => 120.0, 'size' => 30.0, 'brightness' => 20.0, 'hue' => 25.0, 'saturation' => 40.0, 'seed' => 4000000007];
        yield 'place, many' => Documents::step('place', ['outside' => 'colour', 'colour' => [0.8, 0.3, 0.1], 'more' => [
            ['u' => 1.2, 'v' => 0.4, 'width' => 1.5, 'height' => 0.8, 'turn' => -30.0, 'cell' => 3.0],
            ['u' => -1.5, 'v' => -0.7, 'width' => 0.6, 'height' => 2.0, 'turn' => 75.0, 'cell' => 1.0],
        ]]);
        yield 'scatter' => Documents::step('scatter', $jumble);
        yield 'scatter, section' => Documents::step('scatter', ['by' => 'section'] + $jumble);
        yield 'scatter, quarter turns, flipped' => Documents::step('scatter', ['turnBy' => 'quarter', 'flip' => true] + $jumble);
        yield 'breakup' => Documents::step('breakup', ['cell' => 0.9] + $jumble);
        yield 'breakup, hard' => Documents::step('breakup', ['cell' => 0.9, 'feather' => 0.0, 'contrast' => false] + $jumble);
        yield 'hex blend' => Documents::step('hex-blend', ['turn' => 90.0, 'seed' => 77]);
        foreach (['distance', 'noise', 'share'] as $by) {
            yield "scales, $by" => Documents::step('scales', ['by' => $by, 'count' => 'four', 'share' => 37.0, 'far' => 200.0]);
        }
        yield 'scales, relief of its own' => Documents::step('scales', ['by' => 'share', 'share' => 60.0, 'relief' => 'own', 'reliefSize' => 0.7]);
        foreach (['running', 'stack', 'thirds', 'herringbone', 'hexagon'] as $laid) {
            foreach (['surface', 'piece'] as $coordinate) {
                yield "bond, $laid, $coordinate" => Documents::step('bond', ['laid' => $laid, 'coordinate' => $coordinate, 'direction' => 15.0, 'joint' => 0.03, 'bevel' => 0.03]);
            }
        }
        foreach (['noise', 'piece', 'object', 'number'] as $by) {
            yield "choose, $by" => Documents::step('choose', ['family' => 'both', 'by' => $by, 'size' => 0.8, 'index' => 1.0]);
        }
        yield 'choose, by height' => Documents::step('choose', ['family' => 'both', 'size' => 0.8, 'feather' => 40.0, 'lean' => true]);
        yield 'breakup, by height' => Documents::step('breakup', ['cell' => 0.9, 'feather' => 40.0, 'lean' => true, 'bias' => -0.5] + $jumble);
        foreach (['metres', 'repeats'] as $in) {
            yield "warp, map, $in" => Documents::step('warp', ['by' => 'map', 'map' => 'set/normal', 'in' => $in, 'amount' => 0.4, 'amountRepeats' => 0.3] + self::UNMIXED);
        }
        yield 'warp, repeats' => Documents::step('warp', ['in' => 'repeats', 'amountRepeats' => 0.2, 'sizeRepeats' => 1.5]);
        yield 'warp' => Documents::step('warp', ['amount' => 0.2, 'size' => 0.7, 'seed' => 9]);
    }

    /**
     * Documents of which more than one lane matters: layers over each other, parameters, sides with maps of their own.
     *
     * @return array<string, array<string, mixed>>
     */
    public static function documents(): array
    {
        $origin = Documents::step('origin', ['seam' => 30.0]);
        /** @param array<string, mixed> $more */
        $layer = static function (string $id, string $lane, array $more = []): array {
            /** @var array<string, mixed> $more */
            return Documents::layer($id, $lane, 'set', $more);
        };
        $lane = Documents::lane(...);
        $document = Documents::whole(...);
        $stops = [['at' => 0.1, 'red' => 0.1, 'green' => 0.3, 'blue' => 0.6], ['at' => 0.45, 'red' => 0.9, 'green' => 0.8, 'blue' => 0.2], ['at' => 0.9, 'red' => 0.6, 'green' => 0.1, 'blue' => 0.1]];

        return [
            'two layers, the upper one placed' => $document(
                [$lane('a', $origin), $lane('b', $origin, Documents::step('size', ['u' => 3.0]), Documents::step('place', ['width' => 1.4, 'turn' => 10.0]))],
                [$layer('low', 'a'), $layer('high', 'b', ['opacity' => 70.0])],
            ),
            'three layers on two lanes' => $document(
                [$lane('a', $origin), $lane('b', $origin, Documents::step('warp', ['by' => 'map', 'map' => 'set/height', 'amount' => 0.4] + self::UNMIXED))],
                [$layer('low', 'a'), $layer('mid', 'b', ['opacity' => 40.0]), $layer('high', 'b', ['opacity' => 25.0])],
            ),
            'six sides, two with sets of their own' => $document(
                [$lane('a', Documents::step('origin', ['faces' => 'six', 'lean' => true]), Documents::step('size', ['u' => 0.7]))],
                [$layer('low', 'a', ['faces' => ['+y' => 'other', '-x' => 'other']])],
            ),
            'ids that languages keep for themselves' => ['parameters' => [['id' => 'float', 'name' => 'f', 'kind' => 'number', 'unit' => '', 'min' => 0, 'max' => 2, 'step' => 0.1, 'value' => 0.4]]] + $document(
                [
                    $lane('2nd', $origin, Documents::step('size', ['u' => ['parameter' => 'float', 'factor' => 1, 'offset' => 0.3]])),
                    $lane('gl-main', $origin, Documents::step('warp')),
                    $lane('gl', $origin, Documents::step('turn', ['angle' => 20])),
                    $lane('smooth', $origin, Documents::step('breakup')),
                    $lane('int', $origin, Documents::step('bond', ['joint' => 0.02])),
                ],
                [
                    $layer('flat', '2nd'),
                    $layer('half', 'gl-main', ['opacity' => 40, 'mask' => [['kind' => 'noise', 'values' => ['low' => 0.3, 'high' => 0.7]]]]),
                    $layer('restrict', 'gl', ['opacity' => 30, 'finish' => ['values' => ['tint' => [0.8, 0.9, 1]]]]),
                    $layer('2', 'smooth', ['opacity' => 25]),
                    $layer('void', 'int', ['opacity' => 50, 'mask' => [['kind' => 'layer', 'values' => ['layer' => 'half']]]]),
                ],
            ),
            'six sides, each of a colour of its own' => $document(
                [$lane('a', Documents::step('origin', ['faces' => 'six', 'seam' => 40.0]), Documents::step('size', ['u' => 0.7]))],
                [$layer('low', 'a', ['tints' => ['+x' => [0.9, 0.2, 0.1], '-x' => [0.1, 0.8, 0.3], '+y' => [1, 1, 0.4], '-y' => [0.2, 0.2, 0.2], '+z' => [0.3, 0.4, 0.9]]])],
            ),
            ...array_combine(
                array_map(static fn (string $by): string => "gradient by $by", ['luminance', 'height', 'mask', 'object', 'piece']),
                array_map(static fn (string $by): array => $document(
                    [$lane('a', $origin), $lane('b', $origin, Documents::step('bond', ['length' => 0.7, 'width' => 0.3, 'joint' => 0.03]))],
                    [
                        $layer('low', 'b', ['finish' => ['values' => ['gradientBy' => $by, 'gradientStops' => $stops, 'gradientBetween' => 'smooth', 'gradientSpace' => 'linear', 'gradientSeed' => 77, 'tint' => [0.9, 0.8, 1]]]]),
                        $layer('high', 'b', ['opacity' => 60, 'mask' => [['kind' => 'noise', 'values' => ['low' => 0.3, 'high' => 0.7]]], 'finish' => ['values' => ['gradientBy' => $by, 'gradientStops' => $stops, 'gradientDraws' => 'channels', 'gradientAmount' => 70]]]),
                    ],
                ), ['luminance', 'height', 'mask', 'object', 'piece']),
            ),
            'channels of any map' => $document(
                [$lane('a', $origin), $lane('b', $origin, Documents::step('scales', ['by' => 'share', 'share' => 40.0, 'relief' => 'normals', 'reliefSize' => 2.3]))],
                [
                    $layer('low', 'a', ['finish' => ['values' => ['roughnessSource' => 'channel', 'roughnessOf' => 'base-colour', 'roughnessChannel' => 'green', 'roughnessInvert' => true, 'metallicSource' => 'channel', 'metallicOf' => 'normal', 'metallicChannel' => 'red', 'metallicContrast' => 180]]]),
                    $layer('high', 'b', ['opacity' => 50, 'finish' => ['values' => ['roughnessSource' => 'channel', 'occlusionSource' => 'channel', 'occlusionOf' => 'roughness', 'occlusionChannel' => 'blue']]]),
                ],
            ),
            'a finish of everything' => $document(
                [$lane('a', $origin), $lane('b', $origin, Documents::step('breakup', ['cell' => 0.9, 'brightness' => 20]))],
                [
                    $layer('low', 'a', ['finish' => ['values' => [
                        'tint' => [0.9, 0.7, 0.5], 'saturation' => 160, 'hue' => 40, 'lightness' => 110, 'darkest' => 0.02, 'lightest' => 0.8, 'middle' => 1.4,
                        'roughnessFactor' => 120, 'roughnessFrom' => 0.9, 'roughnessTo' => 0.2, 'roughnessInvert' => true,
                        'metallicFactor' => 70, 'metallicFrom' => 0.1, 'metallicTo' => 0.8,
                        'occlusionStrength' => 180, 'occlusionFrom' => 0.1, 'occlusionTo' => 0.95, 'relief' => 230,
                    ]]]),
                    $layer('high', 'b', ['opacity' => 45.0, 'finish' => ['values' => ['saturation' => -60, 'relief' => -80, 'metallicInvert' => true]]]),
                ],
            ),
            ...array_combine(
                array_map(static fn (LayerMode $mode): string => "layers, $mode->value", LayerMode::cases()),
                array_map(static fn (LayerMode $mode): array => $document(
                    [$lane('a', $origin), $lane('b', $origin, Documents::step('size', ['u' => 0.6]), Documents::step('place', ['outside' => 'nothing', 'width' => 2.4]))],
                    // All channels there are: opacity, emission and heights are asked for.
                    [
                        $layer('low', 'a', ['finish' => ['values' => ['glow' => [0.2, 0.3, 0.4], 'opacityFrom' => 0.1, 'opacityTo' => 0.8]]]),
                        $layer('mid', 'a', ['mode' => $mode->value, 'opacity' => 55.0, 'width' => 30, 'finish' => ['values' => ['glow' => [0.9, 0.1, 0.5], 'glowStrength' => 140, 'opacityFrom' => 0.3]]]),
                        $layer('high', 'b', ['mode' => $mode->value, 'opacity' => 80.0, 'channels' => ['colour', 'normal', 'height'], 'mask' => [['kind' => 'below', 'values' => ['low' => -0.2]], ['kind' => 'level', 'values' => ['how' => 'most', 'at' => 1.0, 'band' => 2.5, 'fade' => 1.5, 'breaks' => 0.3]]]]),
                    ],
                ) + ['surface' => ['values' => ['kind' => 'translucent']]], LayerMode::cases()),
            ),
            'masks of all kinds' => $document(
                [$lane('a', $origin), $lane('b', $origin, Documents::step('size', ['u' => 0.6]))],
                [
                    $layer('low', 'a'),
                    $layer('mid', 'b', ['mask' => [
                        ['kind' => 'noise', 'values' => ['size' => 0.8, 'octaves' => '4', 'low' => 0.3, 'high' => 0.7]],
                        ['kind' => 'slope', 'values' => ['how' => 'most', 'angle' => 60, 'softness' => 50, 'detailed' => true]],
                        ['kind' => 'level', 'values' => ['how' => 'difference', 'at' => 0.2, 'fade' => 0.7, 'breaks' => 0.4]],
                    ]]),
                    $layer('high', 'b', ['mode' => 'height', 'width' => 40, 'mask' => [
                        ['kind' => 'below', 'values' => ['gamma' => 1.6]],
                        ['kind' => 'noise', 'values' => ['how' => 'add', 'space' => 'object', 'size' => 1.3, 'seed' => 9]],
                        ['kind' => 'distance', 'values' => ['how' => 'subtract', 'near' => 1, 'far' => 60]],
                        ['kind' => 'object', 'values' => ['how' => 'least', 'invert' => true]],
                        ['kind' => 'constant', 'values' => ['how' => 'multiply', 'value' => 80]],
                    ]]),
                ],
            ),
            ...array_combine(
                array_map(static fn (string $form): string => "masks along lanes, $form", ['smooth', 'ridges', 'blotches', 'cells', 'cracks', 'plates']),
                array_map(static fn (string $form): array => $document(
                    [$lane('a', $origin), $lane('b', $origin, Documents::step('bond', ['laid' => 'running', 'length' => 1.1, 'width' => 0.6, 'joint' => 0.05, 'bevel' => 0.09]), Documents::step('place', ['width' => 3.0, 'height' => 2.0, 'turn' => 15.0, 'outside' => 'mirror']))],
                    [
                        $layer('low', 'a', ['mask' => [['kind' => 'constant', 'values' => ['value' => 40]]]]),
                        $layer('mid', 'a', ['on' => false, 'mask' => [['kind' => 'noise', 'lane' => 'b', 'values' => ['space' => 'lane', 'patches' => 2.5, 'form' => $form, 'octaves' => '2']], ['kind' => 'map', 'values' => ['how' => 'most', 'map' => 'set/height', 'times' => 3.0, 'blur' => 4.0]]]]),
                        $layer('high', 'a', ['mask' => [
                            ['kind' => 'noise', 'values' => ['size' => 1.4, 'form' => $form]],
                            ['kind' => 'joint', 'lane' => 'b', 'values' => ['how' => 'most', 'part' => 'both', 'blur' => 0.03]],
                            ['kind' => 'place', 'lane' => 'b', 'values' => ['blur' => 0.2]],
                            ['kind' => 'object', 'lane' => 'b', 'values' => ['how' => 'add', 'per' => 'piece']],
                            ['kind' => 'layer', 'values' => ['how' => 'difference', 'layer' => 'mid']],
                            ['kind' => 'layer', 'values' => ['how' => 'subtract', 'layer' => 'low', 'of' => 'height', 'contrast' => 60]],
                            ['kind' => 'level', 'values' => ['how' => 'multiply', 'space' => 'object', 'at' => 0.3, 'fade' => 2.0, 'breaks' => 0.5]],
                        ]]),
                    ],
                ), ['smooth', 'ridges', 'blotches', 'cells', 'cracks', 'plates']),
            ),
            'a group with channels made from others' => ['groups' => [['id' => 'wet', 'name' => 'Wet', 'opacity' => 65]], 'surface' => ['values' => ['heightRange' => 0.08]]] + $document(
                [$lane('a', $origin), $lane('b', $origin, Documents::step('size', ['u' => 0.6]), Documents::step('place', ['outside' => 'nothing', 'width' => 2.4]))],
                [
                    $layer('low', 'a', ['finish' => ['values' => ['roughnessSource' => 'luminance', 'roughnessBrightness' => 12, 'roughnessContrast' => 160, 'roughnessAmount' => 80, 'roughnessConstant' => 30, 'metallicSource' => 'height', 'metallicContrast' => -120, 'reliefSource' => 'both']]]),
                    $layer('mid', 'b', ['group' => 'wet', 'mode' => 'height', 'width' => 40, 'finish' => ['values' => ['heightRange' => 0.05, 'heightInvert' => true, 'occlusionSource' => 'luminance', 'reliefSource' => 'height']]]),
                    $layer('high', 'a', ['group' => 'wet', 'opacity' => 35, 'finish' => ['values' => ['heightSource' => 'luminance', 'reliefSource' => 'luminance', 'relief' => 40]]]),
                ],
            ),
            'colours and switches that follow parameters' => ['parameters' => [['id' => 'paint', 'name' => 'Paint', 'kind' => 'colour', 'value' => [0.8, 0.3, 0.1]], ['id' => 'over', 'name' => 'Over', 'kind' => 'switch', 'value' => true]]] + $document(
                [$lane('a', $origin, Documents::step('size', ['linked' => ['parameter' => 'over'], 'u' => 0.6, 'v' => 1.7]), Documents::step('breakup', ['flip' => ['parameter' => 'over']]))],
                [$layer('low', 'a', ['finish' => ['values' => ['tint' => ['parameter' => 'paint'], 'roughnessInvert' => ['parameter' => 'over']]]]), $layer('high', 'a', ['mask' => [['kind' => 'slope', 'values' => ['detailed' => ['parameter' => 'over'], 'invert' => ['parameter' => 'over'], 'softness' => 50]]]])],
            ),
            'cut out on two sides, glowing' => $document(
                [$lane('a', $origin), $lane('b', $origin, Documents::step('turn', ['angle' => 30.0]))],
                [
                    $layer('low', 'a', ['finish' => ['values' => ['opacityFrom' => -0.4, 'opacityTo' => 1.2, 'glow' => [0.9, 0.4, 0.1], 'glowStrength' => 60]]]),
                    $layer('high', 'b', ['opacity' => 70, 'mask' => [['kind' => 'side', 'values' => ['side' => 'back']]], 'finish' => ['values' => ['opacityInvert' => true, 'glow' => [0.1, 0.2, 0.9]]]]),
                ],
            ) + ['surface' => ['values' => ['kind' => 'cut-out', 'sides' => 'both', 'threshold' => 45, 'thresholdBack' => 62]]],
            'painted in two channels' => $document(
                [$lane('a', $origin)],
                [$layer('low', 'a'), $layer('high', 'a', ['mask' => [['kind' => 'painted', 'values' => ['channel' => '2', 'gamma' => 1.4]], ['kind' => 'painted', 'values' => ['channel' => '4', 'how' => 'subtract', 'contrast' => 60]]]])],
            ),
            'two sections apart' => $document(
                [$lane('a', $origin)],
                [$layer('low', 'a'), $layer('high', 'a', ['mask' => [['kind' => 'section', 'values' => ['number' => 2]], ['kind' => 'section', 'values' => ['number' => 5, 'how' => 'most', 'low' => -0.2]]]])],
            ),
            'translucent' => $document([$lane('a', $origin)], [$layer('low', 'a'), $layer('high', 'a', ['mode' => 'multiply', 'opacity' => 40])]) + ['surface' => ['values' => ['kind' => 'translucent']]],
            'a finish around places' => $document(
                [$lane('a', $origin), $lane('b', $origin, Documents::step('place', ['outside' => 'nothing', 'width' => 1.3, 'turn' => 20.0]))],
                [$layer('low', 'a'), $layer('high', 'b', ['finish' => ['values' => ['tint' => [0.2, 0.9, 0.4], 'lightness' => 70, 'roughnessFrom' => 0.6, 'occlusionStrength' => 30]]])],
            ),
            'numbers that follow parameters' => $document(
                [$lane('a', $origin, Documents::step('size', ['u' => ['parameter' => 'wide', 'factor' => 0.5, 'offset' => 0.2]]), Documents::step('cell', ['by' => 'number', 'index' => ['parameter' => 'wide', 'factor' => 3.0]]))],
                [$layer('low', 'a')],
                [['id' => 'wide', 'name' => 'Wide', 'kind' => 'number', 'unit' => 'm', 'min' => 0.0, 'max' => 10.0, 'value' => 2.3]],
            ),
        ];
    }
}
