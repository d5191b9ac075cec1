<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

/** Something that is handed over as files with a manifest of them. */
interface Deliverable
{
    /** What it is called where it is put. */
    public function name(): string;

    /** @return array{material: string, variant: string} of what it is a delivery */
    public function of(): array;

    /**
     * All files but the manifest, one after the other.
     *
     * @param \Closure(int, int): void $progress regions of bakes that are done, and all of them
     *
     * @return \Generator<string, array{0: string, 1: string, 2?: PictureFacts}, mixed, array<string, mixed>> meaning and bytes, and what a picture takes, by path; returns what is told of the whole
     */
    public function files(\Closure $progress): \Generator;

    /**
     * The manifest of what was written.
     *
     * @param list<array{path: string, sha256: string, bytes: int, meaning: string, picture?: PictureFacts}> $files
     * @param array<string, mixed>                                                                           $told   of the whole
     * @param string                                                                                         $source of what all of it follows from
     */
    public function manifest(array $files, array $told, string $source): string;
}
