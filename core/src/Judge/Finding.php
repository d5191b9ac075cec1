<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

/** What a rule found at one place of a document. */
final readonly class Finding
{
    /**
     * @param string    $path     JSON Pointer
     * @param string    $text     in words, with the figure
     * @param string    $fix      what could be done, in a few words; "" for nothing that can be done by itself
     * @param ?Change   $change   doing that, where the document is to be changed
     * @param string    $map      the map that it is about, if it is about one; "" for none
     * @param string    $mend     what could be done to that map, as Check\Fix names it, or read-as- and an encoding; "" for nothing
     * @param ?Severity $severity where it is not that of its rule
     */
    public function __construct(public string $path, public string $text, public string $fix = '', public ?Change $change = null, public string $map = '', public string $mend = '', public ?Severity $severity = null)
    {
    }
}
