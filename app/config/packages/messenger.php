<?php

declare(strict_types=1);

use Rilta\App\Service\Attempts;
use Rilta\App\Service\Queue;
use Symfony\Component\DependencyInjection\Loader\Configurator\ContainerConfigurator;

/*
 * Each queue twice: what is put into it goes over the connection, and so in the transaction, of what it is about; workers take from it
 * over a connection of their own, because they say that they are alive in the middle of whatever they do.
 */
return static function (ContainerConfigurator $container, string $env): void {
    $transports = [];
    foreach (Queue::NAMES as $queue) {
        $options = [
            'options' => ['table_name' => 'queue', 'queue_name' => $queue, 'auto_setup' => false, 'redeliver_timeout' => 15],
            'serializer' => 'messenger.transport.symfony_serializer',
            // Seconds: at once, 2, 10. What is not there by then has failed, and says so in its own row.
            'retry_strategy' => $env === 'test' ? ['max_retries' => 2, 'delay' => 0, 'jitter' => 0] : ['max_retries' => 2, 'delay' => 2000, 'multiplier' => 5],
        ];
        $transports[$queue] = ['dsn' => 'doctrine://default'] + $options;
        // See services.yaml.
        $transports["$queue-taken"] = ['dsn' => $env === 'test' ? 'doctrine://default' : 'doctrine://queue'] + $options;
    }
    $container->extension('framework', ['messenger' => [
        'transports' => $transports,
        'buses' => ['messenger.bus.default' => ['middleware' => [Attempts::class]]],
    ]]);
};
