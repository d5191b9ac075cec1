<?php

declare(strict_types=1);

namespace Rilta\App\Http\Payload;

use Rilta\Core\Material\Role;
use Symfony\Component\Validator\Constraints as Assert;
use Symfony\Component\Validator\Context\ExecutionContextInterface;

/** What a missing map is made of. */
final readonly class Fill
{
    public function __construct(
        public Role $role,
        public ?Role $from = null,
        #[Assert\Range(min: 0, max: 1)]
        public ?float $value = null,
    ) {
    }

    /** What is made from nothing needs a value. */
    #[Assert\Callback]
    public function whole(ExecutionContextInterface $context): void
    {
        if ($this->from === null && $this->role->isScalar() && $this->value === null) {
            $context->buildViolation('missing')->atPath('value')->addViolation();
        }
    }
}
