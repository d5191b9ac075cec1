<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Lowering\Step;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;

/** A step that changes taps one by one; all but the origin are of this kind. */
abstract readonly class PerTapStep implements Step
{
    final public function isOrigin(): bool
    {
        return false;
    }

    public function idle(): ?array
    {
        return null;
    }

    final public function lower(StepContext $context, ?array $taps): array
    {
        $out = [];
        foreach ($taps ?? throw new \LogicException($this->label() . ' needs an origin before it.') as $tap) {
            array_push($out, ...$this->tap($context, $tap));
        }

        return $out;
    }

    /** @return non-empty-list<Tap> what one tap becomes */
    abstract protected function tap(StepContext $context, Tap $tap): array;
}
