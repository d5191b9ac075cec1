<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/** What every control shows: its name in documents, its label, its help, and when it matters. */
final readonly class ControlMeta
{
    /**
     * @param array<string, list<string|bool>> $shownWhen values of other controls that give this one a meaning
     * @param ?string                          $handle    which part of a handle on the stage it is, if of any: "x" and "y" of a pad; "space",
     *                                                    "placeX" to "placeZ" and "turnX" to "turnZ" of a frame; "areaU", "areaV", "areaWidth",
     *                                                    "areaHeight" and "areaTurn" of a rectangle
     */
    public function __construct(
        public string $name,
        public string $label,
        public string $help,
        public array $shownWhen = [],
        public ?string $handle = null,
    ) {
    }

    /** @return array<string, mixed> */
    public function describe(): array
    {
        $out = ['name' => $this->name, 'label' => $this->label, 'help' => $this->help];
        if ($this->handle !== null) {
            $out['handle'] = $this->handle;
        }

        return $this->shownWhen === [] ? $out : $out + ['shownWhen' => $this->shownWhen];
    }
}
