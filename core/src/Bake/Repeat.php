<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

/** How one value changes along the two directions of a plane: by a slope, and by what comes back. */
final readonly class Repeat
{
    /**
     * @param array{float, float}                                     $slope       units a metre, to the right and downwards
     * @param array{array<array-key, float>, array<array-key, float>} $frequencies cycles a metre, above 0, of what comes back
     * @param array{bool, bool}                                       $lost        whether it never comes back
     */
    private function __construct(public array $slope, private array $frequencies, public array $lost)
    {
    }

    public static function constant(): self
    {
        return new self([0.0, 0.0], [[], []], [false, false]);
    }

    public static function along(float $right, float $down): self
    {
        return new self([$right, $down], [[], []], [false, false]);
    }

    /** @return list<float> cycles a metre, along 0 (to the right) or 1 (downwards) */
    public function frequencies(int $axis): array
    {
        return array_values($this->frequencies[$axis]);
    }

    /** This and so many times the other. */
    public function sum(self $other, float $times): self
    {
        $slope = static fn (int $i, self $a): float => Repeats::isSame($a->slope[$i], -$times * $other->slope[$i]) ? 0.0 : $a->slope[$i] + $times * $other->slope[$i];

        return new self([$slope(0, $this), $slope(1, $this)], $this->together($other), $this->never($other));
    }

    public function times(float $factor): self
    {
        return $factor === 0.0 ? self::constant() : new self([$this->slope[0] * $factor, $this->slope[1] * $factor], $this->frequencies, $this->lost);
    }

    /** The whole number below: it climbs alike, and comes back with the fraction. */
    public function floored(): self
    {
        return new self($this->slope, $this->withFrequencies(1.0), $this->lost);
    }

    /** What begins anew after each unit, or so many of one. */
    public function turning(float $perUnit): self
    {
        return new self([0.0, 0.0], $this->withFrequencies($perUnit), $this->lost);
    }

    /** Something of it that is no sum: where it climbs, it never comes back. */
    public function bent(): self
    {
        $lost = fn (int $i): bool => $this->lost[$i] || !Repeats::isFlat($this->slope[$i]);

        return new self([0.0, 0.0], $this->frequencies, [$lost(0), $lost(1)]);
    }

    /** Now this, now the other. */
    public function either(self $other): self
    {
        $lost = fn (int $i): bool => $this->lost[$i] || $other->lost[$i] || !Repeats::isSame($this->slope[$i], $other->slope[$i]);

        return new self($this->slope, $this->together($other), [$lost(0), $lost(1)]);
    }

    /** With what decides about it, which has no slope. */
    public function with(self $decision): self
    {
        return new self($this->slope, $this->together($decision), $this->never($decision));
    }

    /** Both, if neither climbs: what both come back after; the slopes are the steeper ones. */
    public function beside(self $other): self
    {
        $steeper = fn (int $i): float => abs($this->slope[$i]) > abs($other->slope[$i]) ? $this->slope[$i] : $other->slope[$i];

        return new self([$steeper(0), $steeper(1)], $this->together($other), $this->never($other));
    }

    /** @return array{array<array-key, float>, array<array-key, float>} */
    private function withFrequencies(float $perUnit): array
    {
        $more = $this->frequencies;
        foreach ([0, 1] as $i) {
            $f = abs($this->slope[$i] * $perUnit);
            if (!Repeats::isFlat($f)) {
                // Equal ones are kept once.
                $more[$i][\sprintf('%.10e', $f)] = $f;
            }
        }

        return [$more[0], $more[1]];
    }

    /** @return array{array<array-key, float>, array<array-key, float>} */
    private function together(self $other): array
    {
        return [$this->frequencies[0] + $other->frequencies[0], $this->frequencies[1] + $other->frequencies[1]];
    }

    /** @return array{bool, bool} */
    private function never(self $other): array
    {
        return [$this->lost[0] || $other->lost[0], $this->lost[1] || $other->lost[1]];
    }
}
