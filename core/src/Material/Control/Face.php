<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/** What every control shows: its name in documents, its label, its help, and when it matters. */
final readonly class Face
{
    /**
     * @param array<string, list<string|bool>> $shownWhen values of other controls that give this one a meaning
     * @param ?string                          $axis      "x" or "y" if it is one axis of a pad that people drag on the stage
     */
    public function __construct(
        public string $name,
        public string $label,
        public string $help,
        public array $shownWhen = [],
        public ?string $axis = null,
    ) {
    }

    /** @return array<string, mixed> */
    public function describe(): array
    {
        $out = ['name' => $this->name, 'label' => $this->label, 'help' => $this->help];
        if ($this->axis !== null) {
            $out['axis'] = $this->axis;
        }

        return $this->shownWhen === [] ? $out : $out + ['shownWhen' => $this->shownWhen];
    }
}
