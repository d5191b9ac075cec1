<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Judge\Profile;
use Symfony\Component\Validator\Constraints as Assert;

/** A budget of a project's own. */
final readonly class BudgetBody
{
    public function __construct(
        #[Assert\NotNull]
        #[Of('Budget', Profile::class)]
        public mixed $budget,
    ) {
    }
}
