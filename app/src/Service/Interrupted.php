<?php

declare(strict_types=1);

namespace Rilta\App\Service;

/** The process has been told to end; what it worked on is left for another. */
final class Interrupted extends \RuntimeException
{
}
