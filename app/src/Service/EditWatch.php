<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Psr\Cache\CacheItemPoolInterface;
use Rilta\Core\Mesh\Edit\Watch;

/** How far a long edit is, where other requests see it, and where they give it up. */
final class EditWatch implements Watch
{
    /** Seconds between one note and the next. */
    private const OFTEN = 0.25;
    /** Seconds after which nobody asks any more. */
    private const KEPT = 600;

    private float $noted = 0.0;

    /** @param string $name that whoever began it gave it; "" if nobody asks */
    public function __construct(private readonly CacheItemPoolInterface $notes, private readonly string $name)
    {
    }

    public function at(float $share): void
    {
        $now = hrtime(true) / 1e9;
        if ($this->name === '' || $now - $this->noted < self::OFTEN) {
            return;
        }
        $this->noted = $now;
        if ($this->notes->getItem("edit-end-$this->name")->isHit()) {
            throw new Cancelled();
        }
        $this->note('share', $share);
    }

    /** 0…1; null if nothing is known of it. */
    public function share(): ?float
    {
        $share = $this->notes->getItem("edit-share-$this->name")->get();

        return \is_float($share) ? $share : null;
    }

    public function giveUp(): void
    {
        $this->note('end', 1.0);
    }

    /** Nobody asks any more. */
    public function over(): void
    {
        $this->notes->deleteItems(["edit-share-$this->name", "edit-end-$this->name"]);
    }

    private function note(string $what, float $value): void
    {
        $this->notes->save($this->notes->getItem("edit-$what-$this->name")->set($value)->expiresAfter(self::KEPT));
    }
}
