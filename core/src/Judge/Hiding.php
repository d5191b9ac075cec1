<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

/** A change of a material that may hide its repeat. */
final readonly class Hiding
{
    /**
     * @param list<string> $label  what is done, in words, one after the other
     * @param list<string> $places what is changed, by lane and kind of step
     */
    public function __construct(public array $label, public array $places, public Change $change)
    {
    }

    /** Both, if they change something else. */
    public function and(self $other): ?self
    {
        return array_intersect($this->places, $other->places) !== [] ? null : new self([...$this->label, ...$other->label], [...$this->places, ...$other->places], $this->change->and($other->change));
    }
}
