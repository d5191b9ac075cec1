<?php

declare(strict_types=1);

use Rilta\App\Kernel;
use Symfony\Component\HttpFoundation\Request;

require dirname(__DIR__, 2) . '/vendor/autoload.php';

$kernel = new Kernel((string) (getenv('APP_ENV') ?: 'prod'), false);
$request = Request::createFromGlobals();
$response = $kernel->handle($request);
$response->send();
$kernel->terminate($request, $response);
