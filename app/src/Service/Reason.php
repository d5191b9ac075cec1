<?php

declare(strict_types=1);

namespace Rilta\App\Service;

/** Why something is refused. */
enum Reason
{
    /** What is asked for is not there. */
    case Missing;
    /** It cannot be read at all. */
    case Malformed;
    /** It can be read, and is not accepted as it is. */
    case NotAccepted;
    case TooLarge;
    /** Later there is room. */
    case TooMuch;
    /** Somebody else was first. */
    case Taken;
    /** It was changed meanwhile. */
    case Outdated;
    /** Nobody said which version it was made of. */
    case Unconditional;
    /** A page that is not ours wanted to change something. */
    case SignedOut;
    case Forbidden;
    case Foreign;
    /** For a moment. */
    case Busy;
    /** Somebody else's service failed. */
    case Elsewhere;
}
