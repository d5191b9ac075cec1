<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Material\Reader;

/** All that materials are looked through for. */
final class Rules
{
    /** @return list<Rule> */
    public static function all(Reader $reader): array
    {
        return [
            new Rule\MapFindings(),
            new Rule\SplitRoles(),
            new Rule\LoopJumps(),
            new Rule\OverBudget($reader),
            new Rule\UnusedNormal(),
            new Rule\ReliefWithoutNormal(),
            new Rule\NeverSeen(),
            new Rule\MaskEverywhere(),
            new Rule\ManyFaces(),
            new Rule\WrongDensity(),
            new Rule\CutRepeats(),
            new Rule\CancellingSteps(),
            new Rule\IdleStep(),
            new Rule\DriftOfData(),
            new Rule\NothingCut(),
            new Rule\CutOutWithoutMips(),
            new Rule\LikeACutOut(),
            new Rule\CannotTile(),
            new Rule\UnusedParameter(),
            new Rule\UnusedLane(),
            new Rule\UnusedVariant(),
        ];
    }

    /** @return list<array{Rule, Finding}> what is found, what is wrong first */
    public static function found(Reader $reader, Subject $subject): array
    {
        $found = [];
        foreach (self::all($reader) as $rule) {
            foreach ($rule->of($subject) as $finding) {
                $found[] = [$rule, $finding];
            }
        }
        $order = array_flip(array_map(static fn (Severity $one): string => $one->value, Severity::cases()));
        usort($found, static fn (array $a, array $b): int => $order[($a[1]->severity ?? $a[0]->severity())->value] <=> $order[($b[1]->severity ?? $b[0]->severity())->value]);

        return $found;
    }
}
