<?php

declare(strict_types=1);

namespace Rilta\Core\Target\C;

use Rilta\Core\Field\Type;
use Rilta\Core\Target\Dialect;

/** C99 (ISO/IEC 9899:1999): single numbers alone; vectors are taken apart before. */
final class CDialect implements Dialect
{
    /** Section 6.4.1, "Keywords", and those that later editions and C++ have added. */
    private const KEYWORDS = 'auto break case char const continue default do double else enum extern float for goto if inline int long register restrict return short signed sizeof static struct switch '
        . 'typedef union unsigned void volatile while bool true false '
        . 'alignas alignof and and_eq asm bitand bitor catch class compl concept consteval constexpr constinit const_cast co_await co_return co_yield decltype delete dynamic_cast explicit export friend mutable '
        . 'namespace new noexcept not not_eq nullptr operator or or_eq private protected public reinterpret_cast requires static_assert static_cast template this thread_local throw try typeid typename using '
        . 'virtual wchar_t xor xor_eq main errno NULL';

    public function type(Type $type): string
    {
        return match ($type) {
            Type::Bool => 'bool',
            Type::Uint => 'uint32_t',
            Type::Float => 'double',
            default => throw new \LogicException("C has no {$type->value}."),
        };
    }

    public function reserved(): array
    {
        return explode(' ', self::KEYWORDS);
    }
}
