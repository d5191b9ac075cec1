<?php

declare(strict_types=1);

/*
 * A stand-in for a supplier's catalogue: a service of its own that knows nothing of the application. It is started by
 * bin/rilta as `php -S 127.0.0.1:PORT supplier/index.php`; its data lies in RILTA_SUPPLIER_DATA.
 */

require __DIR__ . '/../vendor/autoload.php';

$text = static fn (string $name, string $else): string => is_string($_SERVER[$name] ?? null) ? $_SERVER[$name] : $else;
$data = getenv('RILTA_SUPPLIER_DATA');
(new Rilta\Supplier\Shop($data === false || $data === '' ? sys_get_temp_dir() . '/rilta-supplier' : $data))
    ->answer($text('REQUEST_METHOD', 'GET'), $text('REQUEST_URI', '/'), (string) file_get_contents('php://input'));
