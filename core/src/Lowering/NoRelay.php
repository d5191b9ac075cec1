<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

/** A material that no relay can draw; the message says why. */
final class NoRelay extends \DomainException
{
}
