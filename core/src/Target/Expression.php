<?php

declare(strict_types=1);

namespace Rilta\Core\Target;

/** The text of an expression, and how tightly what is outermost in it binds. */
final readonly class Expression
{
    public function __construct(public string $text, public Precedence $binds = Precedence::Primary)
    {
    }

    public static function binary(string $sign, Precedence $precedence, self $left, self $right): self
    {
        return new self("{$left->in($precedence->side(false))} $sign {$right->in($precedence->side(true))}", $precedence);
    }

    /** @param string $sign "-" or "!" */
    public static function unary(string $sign, self $of): self
    {
        return new self($sign . $of->in(Precedence::Primary), Precedence::Unary);
    }

    public static function choice(self $condition, self $then, self $else): self
    {
        return new self("{$condition->in(Precedence::Disjunction)} ? {$then->in(Precedence::Disjunction)} : {$else->in(Precedence::Disjunction)}", Precedence::Choice);
    }

    public static function call(string $function, self ...$arguments): self
    {
        return new self("$function(" . implode(', ', array_column($arguments, 'text')) . ')');
    }

    public static function member(self $of, string $name): self
    {
        return new self("{$of->in(Precedence::Primary)}.$name");
    }

    /** A number as it stands; below 0 it is an operation on one. */
    public static function number(string $text): self
    {
        return new self($text, str_starts_with($text, '-') ? Precedence::Unary : Precedence::Primary);
    }

    /** As it stands inside something: in parentheses if it binds more loosely than is needed there. */
    public function in(Precedence $needed): string
    {
        return $this->binds->value < $needed->value ? "($this->text)" : $this->text;
    }
}
