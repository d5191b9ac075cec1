<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Symfony\Component\Lock\LockFactory;

/** Lets few at a time do what takes much memory and both processors, so that there are always hands left for all else. */
final readonly class Gate
{
    private const PLACES = 2;
    /** Texels from which on an image is large. */
    private const LARGE = 2_500_000;

    public function __construct(private LockFactory $locks)
    {
    }

    /**
     * @template T
     *
     * @param \Closure(): T $do
     *
     * @return T
     *
     * @throws Refusal 503, if there is no place; whoever asks again later finds one
     */
    public function through(int $texels, \Closure $do): mixed
    {
        if ($texels <= self::LARGE) {
            return $do();
        }
        for ($place = 1; $place <= self::PLACES; ++$place) {
            $lock = $this->locks->createLock("large-image-$place");
            if ($lock->acquire()) {
                try {
                    return $do();
                } finally {
                    $lock->release();
                }
            }
        }
        throw Refusal::busy('Other large images are being read; this one comes next.');
    }
}
