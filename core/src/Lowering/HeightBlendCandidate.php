<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Node;

/** What a tap keeps of a contest, so that what stands higher can win where two meet once heights are known. */
final readonly class HeightBlendCandidate
{
    /**
     * @param string $contest tells contests of one lane apart
     * @param string $party   tells those apart that take part: faces, alternates, cells
     * @param Node   $whole   float, the weight that is shared out
     * @param Node   $weight  float, the party's share without heights; later weights are built on it
     * @param Node   $score   float
     * @param Node   $best    float, the largest score of all
     * @param Node   $reach   float, in the unit of the scores
     * @param Node   $bias    float, what a height of 1 adds to a score
     */
    public function __construct(public string $contest, public string $party, public Node $whole, public Node $weight, public Node $score, public Node $best, public Node $reach, public Node $bias)
    {
    }

    /**
     * One for each party.
     *
     * @param non-empty-array<array-key, Node> $weights as the contest without heights gave them
     * @param non-empty-array<array-key, Node> $scores
     *
     * @return array<array-key, self>
     */
    public static function each(StepContext $context, string $contest, Node $whole, array $weights, array $scores, Node $reach): array
    {
        $best = HeightBlend::best($context->graph, $scores);
        $leans = [];
        foreach ($weights as $party => $weight) {
            $leans[$party] = new self($contest, (string) $party, $whole, $weight, $scores[$party], $best, $reach, $context->number('bias'));
        }

        return $leans;
    }
}
