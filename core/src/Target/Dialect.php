<?php

declare(strict_types=1);

namespace Rilta\Core\Target;

use Rilta\Core\Field\Type;

/** What of a language every printer of it has to know. */
interface Dialect
{
    public function type(Type $type): string;

    /** @return list<string> words that no name may be: its own, and those of the code around what is printed */
    public function reserved(): array;
}
