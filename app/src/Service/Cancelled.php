<?php

declare(strict_types=1);

namespace Rilta\App\Service;

/** Somebody did not want to wait any longer. */
final class Cancelled extends \RuntimeException
{
}
