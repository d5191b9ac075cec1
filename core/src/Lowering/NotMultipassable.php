<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

/** A material that no multipass plan can draw; the message says why. */
final class NotMultipassable extends \DomainException
{
}
