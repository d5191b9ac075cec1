<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Symfony\Component\Process\Process;

/** The supplier's stand-in, there for the tests of one class. */
trait SupplierStandIn
{
    private static ?Process $service = null;
    private static string $address = '';

    public static function setUpBeforeClass(): void
    {
        $socket = stream_socket_server('tcp://127.0.0.1:0') ?: throw new \RuntimeException('No port is free.');
        self::$address = 'http://' . stream_socket_get_name($socket, false);
        fclose($socket);
        $root = \dirname(__DIR__, 2);
        $folder = sys_get_temp_dir() . '/rilta-supplier-' . bin2hex(random_bytes(4));
        self::$service = new Process([\PHP_BINARY, '-d', 'opcache.enable_cli=1', '-d', 'opcache.jit=1105', '-d', 'opcache.jit_buffer_size=64M', '-S', substr(self::$address, 7), "$root/supplier/index.php"], env: ['RILTA_SUPPLIER_DATA' => $folder]);
        self::$service->start();
        self::$service->waitUntil(static fn (string $type, string $said): bool => str_contains($said, 'started'));
        $_SERVER['RILTA_SUPPLIER'] = $_ENV['RILTA_SUPPLIER'] = self::$address;
    }

    public static function tearDownAfterClass(): void
    {
        self::$service?->stop();
        unset($_SERVER['RILTA_SUPPLIER'], $_ENV['RILTA_SUPPLIER']);
    }
}
