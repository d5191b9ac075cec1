<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/**
 * What every control shows: its name in documents, its label, its help, and when it matters.
 *
 * @phpstan-type ShownWhenJson non-empty-array<string, list<string|bool>>
 * @phpstan-type Face array{name: string, label: string, help: string, handle?: value-of<Handle>, shownWhen?: ShownWhenJson}
 */
final readonly class ControlMeta
{
    /**
     * @param array<string, list<string|bool>> $shownWhen values of other controls that give this one a meaning
     * @param ?Handle                          $handle    which part of a handle on the stage it is, if of any
     */
    public function __construct(
        public string $name,
        public string $label,
        public string $help,
        public array $shownWhen = [],
        public ?Handle $handle = null,
    ) {
    }

    /** @return Face */
    public function describe(): array
    {
        $out = ['name' => $this->name, 'label' => $this->label, 'help' => $this->help];
        if ($this->handle !== null) {
            $out['handle'] = $this->handle->value;
        }

        return $this->shownWhen === [] ? $out : $out + ['shownWhen' => $this->shownWhen];
    }
}
