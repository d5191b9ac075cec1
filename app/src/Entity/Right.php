<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

/** What an operation asks of whoever does it. */
enum Right: string
{
    /** Nobody has to be signed in. */
    case Everybody = 'everybody';
    /** Of no project. */
    case SignedIn = 'signed-in';
    /** Of the whole server. */
    case Administer = 'administer';
    case Read = 'read';
    case Comment = 'comment';
    case Write = 'write';
    case Bake = 'bake';
    case Deliver = 'deliver';
    case Own = 'own';
}
