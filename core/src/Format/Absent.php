<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/** Stands for a value that is not there, where null is a value. */
enum Absent
{
    case Here;
}
