<?php

declare(strict_types=1);

namespace Rilta\Core\Target;

use Rilta\Core\Field\Op;

/**
 * How tightly operators bind, in all languages of the C family: what binds more loosely than what it stands in needs parentheses. Where
 * people, and compilers that warn, do not trust the order by heart, it is left unsaid: shifts, bits and mixed logic keep theirs.
 */
enum Precedence: int
{
    /** Names, calls, members. */
    case Primary = 9;
    case Unary = 8;
    case Product = 7;
    case Sum = 6;
    case Shift = 5;
    case Relation = 4;
    case Bits = 3;
    case Conjunction = 2;
    case Disjunction = 1;
    case Choice = 0;

    /** @return array{string, self}|null the sign of a binary operation, and how it binds */
    public static function binary(Op $op): ?array
    {
        return match ($op) {
            Op::Mul => ['*', self::Product],
            Op::Div => ['/', self::Product],
            Op::Add => ['+', self::Sum],
            Op::Sub => ['-', self::Sum],
            Op::ShiftRight => ['>>', self::Shift],
            Op::Less => ['<', self::Relation],
            Op::LessEqual => ['<=', self::Relation],
            Op::Xor => ['^', self::Bits],
            Op::BitAnd => ['&', self::Bits],
            Op::And => ['&&', self::Conjunction],
            Op::Or => ['||', self::Disjunction],
            default => null,
        };
    }

    /** What stands on a side of such an operation has to bind at least so tightly. */
    public function side(bool $right): self
    {
        return match ($this) {
            self::Shift, self::Bits => self::Unary,
            self::Relation => self::Sum,
            self::Conjunction => self::Relation,
            self::Disjunction => self::Relation,
            // What is computed from left to right is in another order in single precision.
            self::Sum => $right ? self::Product : self::Sum,
            self::Product => $right ? self::Unary : self::Product,
            default => self::Primary,
        };
    }
}
