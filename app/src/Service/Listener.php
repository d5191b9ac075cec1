<?php

declare(strict_types=1);

namespace Rilta\App\Service;

/** Whoever hears what happens in a project. */
final readonly class Listener
{
    /**
     * @param string                 $project  its slug
     * @param int                    $material that they have open; 0 for none
     * @param int                    $person   0 for whoever is at a machine where nobody signs in
     * @param string                 $page     of their browser: one person may have two
     * @param int                    $signIn   by which they came, 0 for none
     * @param int                    $token    by which a program came, 0 for none
     * @param \Closure(string): void $send
     * @param \Closure(): void       $end      the connection
     */
    public function __construct(
        public string $project,
        public int $material,
        public int $person,
        public string $who,
        public string $page,
        public int $signIn,
        public int $token,
        public \Closure $send,
        public \Closure $end,
    ) {
    }
}
