<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

/**
 * What can be done about a map. Each makes a new version; the one before is kept.
 *
 * @phpstan-type FixJson value-of<Fix>
 */
enum Fix: string
{
    case FlipGreen = 'flip-green';
    case Invert = 'invert';
    case Decode = 'decode';
    case Encode = 'encode';
    case Unmultiply = 'unmultiply';
    case Resample = 'resample';
    case CrossFade = 'cross-fade';
    case MinCut = 'min-cut';

    public function label(): string
    {
        return match ($this) {
            self::FlipGreen => 'Flip green',
            self::Invert => 'Invert',
            self::Decode => 'Take the sRGB curve off',
            self::Encode => 'Put the sRGB curve on',
            self::Unmultiply => 'Divide colour by alpha',
            self::Resample => 'Resample',
            self::CrossFade => 'Make seamless by a cross-fade',
            self::MinCut => 'Make seamless by a cut',
        };
    }

    public function help(): string
    {
        return match ($this) {
            self::FlipGreen => 'Turns the green channel over: what pointed down points up.',
            self::Invert => 'White becomes black: smoothness becomes roughness.',
            self::Decode => 'For a map that was encoded twice, or data that was stored as colour: every value becomes darker.',
            self::Encode => 'For a colour that was stored in linear light: every value becomes lighter.',
            self::Unmultiply => 'For colour that was multiplied by its alpha: edges lose their dark rim.',
            self::Resample => 'To the size of the other maps of the set, in linear light; normals stay unit vectors.',
            self::CrossFade => 'Fades the borders into the middle of the map, all maps of the set alike. For grain without shapes.',
            self::MinCut => 'Cuts along the line on which two copies differ least, all maps of the set alike. For shapes: stones, tiles.',
        };
    }

    /** Whether all maps of a set have to be changed together, so that they stay aligned. */
    public function isOfSet(): bool
    {
        return $this === self::CrossFade || $this === self::MinCut;
    }
}
