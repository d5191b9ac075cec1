<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use Monolog\Formatter\JsonFormatter;
use Monolog\Handler\HandlerInterface;
use Monolog\Handler\NoopHandler;
use Monolog\Handler\SocketHandler;
use Monolog\Handler\WhatFailureGroupHandler;
use Monolog\Level;

/** Where logs go beside the files of the machine: to whatever collects them, a line of JSON each. */
final class LogSink
{
    /** Seconds that one that is away may take. */
    private const PATIENCE = 1.0;

    /** @param string $address as PHP's sockets have it (tls://, tcp://, udp://, unix://); "" for nowhere */
    public static function at(string $address): HandlerInterface
    {
        if ($address === '') {
            return new NoopHandler();
        }
        $socket = new SocketHandler($address, Level::Notice, persistent: true, connectionTimeout: self::PATIENCE, writingTimeout: self::PATIENCE);
        $socket->setFormatter(new JsonFormatter(JsonFormatter::BATCH_MODE_NEWLINES));

        // The files have it all as well: one that is away stops nothing.
        return new WhatFailureGroupHandler([$socket]);
    }
}
