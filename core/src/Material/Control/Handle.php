<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/** A part of what is taken hold of on the stage: of a pad (x, y), of a frame (space, place…, turn…), of a rectangle (area…). */
enum Handle: string
{
    case X = 'x';
    case Y = 'y';
    case Space = 'space';
    case PlaceX = 'placeX';
    case PlaceY = 'placeY';
    case PlaceZ = 'placeZ';
    case TurnX = 'turnX';
    case TurnY = 'turnY';
    case TurnZ = 'turnZ';
    case AreaU = 'areaU';
    case AreaV = 'areaV';
    case AreaWidth = 'areaWidth';
    case AreaHeight = 'areaHeight';
    case AreaTurn = 'areaTurn';
}
