<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/** The images of a ZIP archive, one after the other. What it claims of itself is not believed. */
final class ZipFile
{
    public const MOST_BYTES = 256 * 1024 * 1024;
    public const MOST_MEMBERS = 500;
    /** Unpacked, all together. */
    private const MOST_UNPACKED = 1024 * 1024 * 1024;
    /** Deflate cannot do better than this; more means that the archive is a trap. */
    private const MOST_RATIO = 1100;
    private const CHUNK = 1 << 20;

    public static function isOne(string $path): bool
    {
        return \in_array(file_get_contents($path, length: 4), ["PK\x03\x04", "PK\x05\x06"], true);
    }

    /**
     * Every file of the archive: its name and its bytes, or why it cannot be had. Folders, and what operating systems leave
     * behind, are passed over.
     *
     * @return \Generator<int, array{string, string|UnreadableMap}>
     *
     * @throws UnreadableMap if nothing of the archive can be read
     */
    public static function members(string $path, string $name, int $most = self::MOST_MEMBERS, int $mostBytes = self::MOST_BYTES): \Generator
    {
        $zip = new \ZipArchive();
        if ((int) filesize($path) > $mostBytes) {
            throw UnreadableMap::archive($name, \sprintf('it has %.0f MiB; an archive may have %d MiB', filesize($path) / 1048576, $mostBytes / 1048576));
        }
        $opened = $zip->open($path, \ZipArchive::RDONLY | \ZipArchive::CHECKCONS);
        if ($opened !== true) {
            throw UnreadableMap::archive($name, 'it is damaged or broken off');
        }
        try {
            if ($zip->numFiles > $most) {
                throw UnreadableMap::archive($name, \sprintf('it has %d files; an archive may have %d', $zip->numFiles, $most));
            }
            $left = max(self::MOST_UNPACKED, $mostBytes);
            for ($i = 0; $i < $zip->numFiles; ++$i) {
                $facts = $zip->statIndex($i);
                if ($facts === false) {
                    continue;
                }
                $member = mb_scrub((string) $facts['name']);
                $file = basename(str_replace('\\', '/', $member));
                if (str_ends_with($member, '/') || str_starts_with($file, '.') || str_contains($member, '__MACOSX/') || strtolower($file) === 'thumbs.db') {
                    continue;
                }
                $bytes = self::read($zip, $i, $facts, $member, min($left, ImageFile::MOST_BYTES));
                $left -= \is_string($bytes) ? \strlen($bytes) : 0;
                yield [$file, $bytes];
                if ($left <= 0) {
                    throw UnreadableMap::archive($name, \sprintf('its files unpack to more than %d MiB', self::MOST_UNPACKED / 1048576));
                }
            }
        } finally {
            $zip->close();
        }
    }

    /** @param array{size: int, comp_size: int, encryption_method: int} $facts */
    private static function read(\ZipArchive $zip, int $index, array $facts, string $member, int $most): string|UnreadableMap
    {
        if (preg_match('#(^|[/\\\\])\.\.([/\\\\]|$)|^[/\\\\]|^[A-Za-z]:#', $member) === 1) {
            return UnreadableMap::archive($member, 'its name leads out of the archive');
        }
        if ($facts['encryption_method'] !== \ZipArchive::EM_NONE) {
            return UnreadableMap::archive($member, 'it is locked with a password');
        }
        if ($facts['size'] > $most) {
            return UnreadableMap::tooManyBytes($member, $facts['size']);
        }
        if ($facts['size'] > self::MOST_RATIO * max(64, $facts['comp_size'])) {
            return UnreadableMap::archive($member, \sprintf('it claims to unpack %d bytes to %d', $facts['comp_size'], $facts['size']));
        }
        $stream = $zip->getStreamIndex($index);
        if ($stream === false) {
            return UnreadableMap::archive($member, 'it cannot be unpacked');
        }
        $bytes = '';
        while (!feof($stream)) {
            $part = @fread($stream, self::CHUNK);
            if ($part === false) {
                return UnreadableMap::archive($member, 'it is damaged');
            }
            $bytes .= $part;
            if (\strlen($bytes) > $most) {
                return UnreadableMap::tooManyBytes($member, \strlen($bytes));
            }
        }
        fclose($stream);

        return \strlen($bytes) === $facts['size'] ? $bytes : UnreadableMap::archive($member, 'it is damaged');
    }
}
