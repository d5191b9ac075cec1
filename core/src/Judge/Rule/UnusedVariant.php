<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Change;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Material\Variant;

final class UnusedVariant implements Rule
{
    public function code(): string
    {
        return 'unused-variant';
    }

    public function label(): string
    {
        return 'A variant that changes nothing';
    }

    public function help(): string
    {
        return 'Two names for one look are told apart by nobody.';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function of(Subject $subject): iterable
    {
        $all = $subject->material->variants;
        foreach ($all->all as $variant) {
            $built = array_filter($all->all, static fn (Variant $other): bool => $other->base === $variant->id);
            if ($built === [] && $all->values($variant->id) == $all->values($variant->base)) {
                yield new Finding($variant->path, \sprintf('“%s” looks like %s.', $variant->name, $variant->base === '' ? 'the material as it is written' : "“{$all->find($variant->base)?->name}”"), 'Delete it', Change::none()->remove($variant->path));
            }
        }
    }
}
