<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Aws\S3\S3Client;
use League\Flysystem\AwsS3V3\AwsS3V3Adapter;
use League\Flysystem\Filesystem;

/** Where files lie that are no one machine's: in the data folder, or in a store that speaks S3 and several machines share. */
final class Store
{
    /** How often what the store does not answer is asked again, at growing intervals: about three seconds in all. */
    private const ATTEMPTS = 6;

    /**
     * @param string $address of a store, s3://KEY:SECRET@HOST[:PORT]/BUCKET[/FOLDER][?region=…&tls=0]; "" for the data folder
     *
     * @throws \InvalidArgumentException
     */
    public static function at(string $address, string $data): Filesystem
    {
        if ($address === '') {
            return new Filesystem(new SyncedAdapter($data));
        }
        $parts = parse_url($address);
        $path = explode('/', trim($parts['path'] ?? '', '/'), 2);
        if ($parts === false || ($parts['scheme'] ?? '') !== 's3' || !isset($parts['host'], $parts['user'], $parts['pass']) || $path[0] === '') {
            throw new \InvalidArgumentException('RILTA_STORE: expected s3://KEY:SECRET@HOST/BUCKET, or nothing for the data folder. Signs like / in the key or the secret are written as %2F.');
        }
        parse_str($parts['query'] ?? '', $query);
        $client = new S3Client([
            'endpoint' => (($query['tls'] ?? '') === '0' ? 'http' : 'https') . '://' . $parts['host'] . (isset($parts['port']) ? ':' . $parts['port'] : ''),
            'region' => \is_string($query['region'] ?? null) ? $query['region'] : 'us-east-1',
            'credentials' => ['key' => rawurldecode($parts['user']), 'secret' => rawurldecode($parts['pass'])],
            'use_path_style_endpoint' => true,
            'retries' => self::ATTEMPTS,
            'http' => ['connect_timeout' => 5, 'timeout' => 300],
            // Stores that are not the first of their kind know MD5 alone, if anything.
            'request_checksum_calculation' => 'when_required',
            'response_checksum_validation' => 'when_required',
        ]);

        return new Filesystem(new AwsS3V3Adapter($client, $path[0], $path[1] ?? ''));
    }
}
