<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/** What every control shows: its name in documents, its label, its help, and when it matters. */
final readonly class Face
{
    /** @param array<string, list<string|bool>> $shownWhen values of other controls that give this one a meaning */
    public function __construct(
        public string $name,
        public string $label,
        public string $help,
        public array $shownWhen = [],
    ) {
    }

    /** @return array<string, mixed> */
    public function describe(): array
    {
        $out = ['name' => $this->name, 'label' => $this->label, 'help' => $this->help];

        return $this->shownWhen === [] ? $out : $out + ['shownWhen' => $this->shownWhen];
    }
}
