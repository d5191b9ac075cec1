<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

enum BakeState: string
{
    case Waiting = 'waiting';
    case Done = 'done';
    case Failed = 'failed';
    case Cancelled = 'cancelled';
}
