<?php

declare(strict_types=1);

namespace Rilta\App;

use Symfony\Bundle\FrameworkBundle\Kernel\MicroKernelTrait;
use Symfony\Component\HttpKernel\Kernel as BaseKernel;

final class Kernel extends BaseKernel
{
    use MicroKernelTrait;

    public function getProjectDir(): string
    {
        return \dirname(__DIR__);
    }

    public function getCacheDir(): string
    {
        return self::data() . '/symfony/' . $this->getEnvironment();
    }

    public function getLogDir(): string
    {
        return self::data() . '/log';
    }

    /** The folder of this instance: its database, files, caches and logs. */
    private static function data(): string
    {
        $folder = $_SERVER['RILTA_DATA'] ?? getenv('RILTA_DATA');

        return \is_string($folder) && $folder !== '' ? $folder : \dirname(__DIR__, 2) . '/var/main';
    }
}
