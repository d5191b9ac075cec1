<?php

declare(strict_types=1);

namespace Rilta\App\Remote;

use Rilta\App\Service\StoredTexts;
use Rilta\App\Service\TextSource;

/** Which projects the command line means: those of this machine, or those of a server that it was told. */
final readonly class TextSources
{
    public function __construct(private RemoteServer $server, private RemoteTexts $remote, private StoredTexts $stored)
    {
    }

    public function source(): TextSource
    {
        return $this->server->isMeant() ? $this->remote : $this->stored;
    }
}
