<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

/** What somebody is in a project. */
enum Role: string
{
    case Owner = 'owner';
    case Editor = 'editor';
    case Reviewer = 'reviewer';
    case Viewer = 'viewer';

    public function label(): string
    {
        return ucfirst($this->value);
    }

    /** In words, for whoever gives it. */
    public function help(): string
    {
        return match ($this) {
            self::Owner => 'Everything, and says who else may do what',
            self::Editor => 'Changes materials and maps, bakes and delivers',
            self::Reviewer => 'Looks, compares, comments and approves',
            self::Viewer => 'Looks',
        };
    }

    /** @return list<value-of<Right>> all that it may */
    public function rights(): array
    {
        return array_values(array_map(static fn (Right $one): string => $one->value, array_filter(Right::cases(), $this->may(...))));
    }

    public function may(Right $right): bool
    {
        return match ($right) {
            Right::Everybody, Right::SignedIn, Right::Administer => false,
            Right::Read => true,
            Right::Comment => $this !== self::Viewer,
            Right::Write, Right::Bake, Right::Deliver => $this === self::Owner || $this === self::Editor,
            Right::Own => $this === self::Owner,
        };
    }
}
