<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Target;

use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Expression;
use Rilta\Core\Target\Pass\CommonBranches;
use Rilta\Core\Target\Pass\Turning;
use Rilta\Core\Target\Pass\UseCounts;
use Rilta\Core\Target\Precedence;

/** What every printer needs, once. */
final class PassesTest extends TestCase
{
    /** The same text means the same to PHP, whose operators bind alike: so it is read back as it was meant, rounding and all. */
    public function testParenthesesStandWhereTheyAreNeeded(): void
    {
        $dice = new Randomizer(new Mt19937(9));
        $shorter = 0;
        for ($n = 0; $n < 2000; ++$n) {
            [$expression, $value] = self::tree($dice, 5);
            self::assertSame($value, eval("return $expression->text;"), $expression->text);
            $shorter += substr_count($expression->text, '(') < substr_count($expression->text, ' ') / 2 ? 1 : 0;
        }
        self::assertGreaterThan(1200, $shorter, 'and mostly nowhere else');
    }

    public function testWhatNobodyKnowsByHeartIsSaid(): void
    {
        [$a, $b, $c] = array_map(static fn (string $name): Expression => new Expression($name), ['a', 'b', 'c']);
        $of = static fn (Op $op, Expression $x, Expression $y): Expression => Expression::binary(...[...(Precedence::binary($op) ?? throw new \LogicException()), $x, $y]);
        self::assertSame('a + b * c', $of(Op::Add, $a, $of(Op::Mul, $b, $c))->text);
        self::assertSame('(a + b) * c', $of(Op::Mul, $of(Op::Add, $a, $b), $c)->text);
        self::assertSame('a - (b - c)', $of(Op::Sub, $a, $of(Op::Sub, $b, $c))->text);
        self::assertSame('a + (b + c)', $of(Op::Add, $a, $of(Op::Add, $b, $c))->text, 'single precision is not associative');
        self::assertSame('(a && b) || c', $of(Op::Or, $of(Op::And, $a, $b), $c)->text);
        self::assertSame('(a ^ b) & c', $of(Op::BitAnd, $of(Op::Xor, $a, $b), $c)->text);
        self::assertSame('(a + b) >> c', $of(Op::ShiftRight, $of(Op::Add, $a, $b), $c)->text);
        self::assertSame('(a ? b : c) * a', $of(Op::Mul, Expression::choice($a, $b, $c), $a)->text);
        self::assertSame('-(-1.5)', Expression::unary('-', Expression::number('-1.5'))->text);
        self::assertSame('a - -1.5', $of(Op::Sub, $a, Expression::number('-1.5'))->text);
        self::assertSame('(a + b).xy', Expression::member($of(Op::Add, $a, $b), 'xy')->text);
    }

    public function testUsesAreCountedWithOutputs(): void
    {
        $g = new Graph();
        [$a, $b] = [$g->input('a', Type::Float), $g->input('b', Type::Float)];
        $sum = $g->add($a, $b);
        $outputs = ['one' => $g->mul($sum, $sum), 'two' => $sum];
        $uses = UseCounts::of(Reachable::from($outputs), $outputs);
        self::assertSame([1, 1, 3, 1], [$uses[$a->id], $uses[$b->id], $uses[$sum->id], $uses[$outputs['one']->id]]);
    }

    public function testOnlyWhatDiffersTurns(): void
    {
        $g = new Graph();
        [$still, $turns] = [$g->mul($g->input('still', Type::Float), 3.0), $g->input('turns', Type::Float)];
        $both = $g->add($still, $turns);
        $nodes = Reachable::from([$g->sin($both)]);
        $inside = Turning::of($nodes, ['turns']);
        self::assertArrayNotHasKey($still->id, $inside);
        self::assertSame([true, true, true], [isset($inside[$turns->id]), isset($inside[$both->id]), isset($inside[$g->sin($both)->id])]);
        self::assertSame([], Turning::of($nodes, ['nobody']));
    }

    public function testWhatSeveralNeedIsComputedOnceAndBeforeThem(): void
    {
        $g = new Graph();
        $a = $g->input('a', Type::Float);
        $common = $g->sin($a);
        $alone = $g->exp2($a);
        $fields = ['late' => $g->add($common, 1.0), 'early' => $alone, 'other' => $g->mul($common, 2.0)];
        $branches = CommonBranches::of(Reachable::from($fields), $fields);
        self::assertSame('early', $branches->order[0], 'what needs nothing of the others comes first');
        $seen = [];
        foreach ($branches->order as $place => $name) {
            $seen += $branches->groups[$place]['common'];
            // Whatever it needs is there: common so far, or its own.
            foreach (Reachable::from([$fields[$name]]) as $id => $node) {
                self::assertTrue(isset($seen[$id]) || isset($branches->groups[$place]['own'][$id]), "$name needs {$node->op->name}");
            }
        }
        self::assertArrayHasKey($common->id, $branches->groups[1]['common'], 'as late as possible');
        self::assertArrayHasKey($alone->id, $branches->groups[0]['own']);
        self::assertSame(\count(Reachable::from($fields)), array_sum(array_map(static fn (array $group): int => \count($group['common']) + \count($group['own']), $branches->groups)), 'each once');
    }

    /** @return array{Expression, float|bool} a sum of products and choices, and what it comes to */
    private static function tree(Randomizer $dice, int $depth): array
    {
        if ($depth === 0 || $dice->getInt(0, 9) === 0) {
            $number = $dice->getInt(-9999, 9999) / 777;

            return [Expression::number(var_export($number, true)), $number];
        }
        [$x, $a] = self::number($dice, $depth - 1);
        [$y, $b] = self::number($dice, $depth - 1);
        $of = static fn (Op $op): Expression => Expression::binary(...[...(Precedence::binary($op) ?? throw new \LogicException()), $x, $y]);

        return match ($dice->getInt(0, 6)) {
            0 => [$of(Op::Add), $a + $b],
            1 => [$of(Op::Sub), $a - $b],
            2, 3 => [$of(Op::Mul), $a * $b],
            4 => [Expression::unary('-', $x), -$a],
            5 => [Expression::choice($of(Op::Less), $x, $y), $a < $b ? $a : $b],
            default => [Expression::choice(Expression::binary('||', Precedence::Disjunction, Expression::binary('&&', Precedence::Conjunction, $of(Op::Less), $of(Op::LessEqual)), Expression::unary('!', $of(Op::LessEqual))), $y, $x), ($a < $b && $a <= $b) || !($a <= $b) ? $b : $a],
        };
    }

    /** @return array{Expression, float} */
    private static function number(Randomizer $dice, int $depth): array
    {
        [$expression, $value] = self::tree($dice, $depth);

        return [$expression, (float) $value];
    }
}
