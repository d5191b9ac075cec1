<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\Control;

/** The declaration of a step, as far as documents and forms are concerned. */
interface StepKind
{
    /** The word for it in documents. */
    public function name(): string;

    public function label(): string;

    /** One or two sentences for people. */
    public function help(): string;

    /** Origins stand first in a lane, and nowhere else. */
    public function isOrigin(): bool;

    /** @return list<Control> */
    public function controls(): array;

    /** The control that is scrubbed on the tile, if any. */
    public function mainControl(Values $values): ?string;

    /**
     * With these values a lane is as if the step were not there, whatever its other values are. Cells that it tells apart stay told apart.
     *
     * @return array<string, float|false>|null by control; null if no values do that
     */
    public function idle(): ?array;

    /** The step in words, as a part of the lane's sentence; "{u}" stands for the number of the control u. */
    public function phrase(Values $values): string;
}
