<?php

declare(strict_types=1);

/*
 * Serves one delivery and the page that plays it, for PHP's own server on loopback: nothing else of this machine.
 */
$path = rawurldecode((string) parse_url((string) ($_SERVER['REQUEST_URI'] ?? '/'), PHP_URL_PATH));
$delivered = str_starts_with($path, '/delivery/');
$root = realpath($delivered ? (string) getenv('RILTA_DELIVERY') : dirname(__DIR__) . '/web/dist');
$file = realpath($root . '/' . ($delivered ? substr($path, 10) : ($path === '/' ? 'play.html' : ltrim($path, '/'))));
if ($root === false || $file === false || !is_file($file) || !str_starts_with($file, "$root/") || !in_array($_SERVER['REQUEST_METHOD'] ?? '', ['GET', 'HEAD'], true)) {
    http_response_code(404);
    header('Content-Type: text/plain');
    echo 'There is no such file.';

    return true;
}
$types = ['html' => 'text/html; charset=utf-8', 'js' => 'text/javascript', 'css' => 'text/css', 'svg' => 'image/svg+xml', 'json' => 'application/json', 'woff2' => 'font/woff2', 'png' => 'image/png', 'wasm' => 'application/wasm'];
header('Content-Type: ' . ($types[pathinfo($file, PATHINFO_EXTENSION)] ?? 'application/octet-stream'));
header("Content-Security-Policy: default-src 'self'; connect-src 'self' data: blob:; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; img-src 'self' blob: data:; object-src 'none'; base-uri 'none'; frame-ancestors 'none'");
header('X-Content-Type-Options: nosniff');
header('Cache-Control: no-cache');
readfile($file);

return true;
