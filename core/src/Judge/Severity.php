<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

/** How much a finding matters. */
enum Severity: string
{
    /** The picture is wrong. */
    case Wrong = 'wrong';
    /** Hardly what was meant, or dearer than it has to be. */
    case Doubtful = 'doubtful';
    /** Good to know. */
    case Note = 'note';
}
