<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Symfony\Component\DependencyInjection\Attribute\Autowire;
use Symfony\Component\Process\Exception\ProcessTimedOutException;
use Symfony\Component\Process\Process;

/** What looks for viruses in files of others, where the configuration has something that does: it sees them before anything else reads them. */
final readonly class Scanner
{
    private const SECONDS = 120;
    /** How commands say that they found something; all else is that they could say nothing. */
    private const FOUND = 1;

    public function __construct(#[Autowire('%env(RILTA_SCANNER)%')] private string $command)
    {
    }

    /**
     * @param string          $name  what people call the file
     * @param resource|string $bytes
     *
     * @throws Refusal if something is in it, or nothing can be said of it
     */
    public function pass(string $name, mixed $bytes): void
    {
        if ($this->command === '') {
            return;
        }
        try {
            $status = Process::fromShellCommandline($this->command, input: $bytes, timeout: self::SECONDS)->run();
        } catch (ProcessTimedOutException) {
            $status = -1;
        }
        if ($status !== 0) {
            throw $status === self::FOUND ? Refusal::invalid("$name was refused by what looks for viruses here.") : Refusal::busy("What looks for viruses here says nothing, so that $name was not taken. Try again later, or ask whoever looks after the server.");
        }
    }
}
