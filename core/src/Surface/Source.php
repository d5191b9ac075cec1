<?php

declare(strict_types=1);

namespace Rilta\Core\Surface;

/** Where an input of a surface comes from: what every host that shows, bakes or probes has to know how to get. */
enum Source
{
    /** The point, in the world. */
    case Position;
    /** The unit normal, in the world, towards whoever sees it. */
    case Normal;
    /** How another input changes to the next pixel on the right. */
    case Right;
    /** How another input changes to the next pixel below. */
    case Down;
    /** An attribute of the mesh, between its vertices. */
    case Vertex;
    /** An attribute of the mesh that is the same all over a triangle. */
    case Flat;
    /** An attribute of the mesh that is a direction along it: turned and stretched with the object, of length 1. */
    case Direction;
    /** The point where the object's frame begins. */
    case Origin;
    /** One of the unit axes of the object's frame. */
    case Axis;
    /** A number that each object has for itself. */
    case Object;
    /** The metres to the eye. */
    case Distance;
    /** 1 for a front, -1 for a back. */
    case Facing;
}
