<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/**
 * A glTF 2.0 file, text or binary, as JSON whose parts are reached by number, and the bytes that it names.
 *
 * https://registry.khronos.org/glTF/specs/2.0/glTF-2.0.html
 */
final class GltfContainer
{
    private const MAGIC = 'glTF';
    private const PACKED_BY = ['KHR_draco_mesh_compression' => 'Draco', 'EXT_meshopt_compression' => 'meshopt'];

    /** @var array<int, string> */
    private array $buffers = [];

    /**
     * @param array<array-key, mixed> $json
     * @param array<string, string>   $others bytes of files that came with it, by name
     */
    private function __construct(public readonly array $json, private readonly string $chunk, public readonly string $file, private readonly array $others)
    {
    }

    /**
     * @param array<string, string> $others bytes of files that came with it, by name
     *
     * @throws UnreadableMesh
     */
    public static function open(string $bytes, string $file, array $others = []): self
    {
        [$text, $chunk] = str_starts_with($bytes, self::MAGIC) ? self::chunks($bytes, $file) : [$bytes, ''];
        $json = json_decode($text, true, 64);
        if (!\is_array($json) || !\is_array($json['asset'] ?? null)) {
            throw UnreadableMesh::of($file, 'expected a glTF file, with an "asset" in it');
        }
        $version = $json['asset']['version'] ?? null;
        if (!\is_string($version) || !str_starts_with($version, '2.')) {
            throw UnreadableMesh::at($file, '/asset/version', \sprintf('expected 2.0, found %s', self::shown($version)));
        }

        return new self($json, $chunk, $file, $others);
    }

    /**
     * What of a file belongs to it and lies in files beside it, by name.
     *
     * @param list<string> $lists where they are named: buffers, images
     *
     * @return list<string>
     */
    public static function needs(string $bytes, array $lists): array
    {
        $json = str_starts_with($bytes, self::MAGIC) ? null : json_decode($bytes, true, 64);
        $names = [];
        foreach ($lists as $list) {
            foreach (\is_array($json) && \is_array($json[$list] ?? null) ? $json[$list] : [] as $one) {
                $uri = \is_array($one) ? $one['uri'] ?? null : null;
                if (\is_string($uri) && !str_starts_with($uri, 'data:')) {
                    $names[basename(str_replace('\\', '/', rawurldecode($uri)))] = true;
                }
            }
        }

        return array_map(strval(...), array_keys($names));
    }

    /** Bytes of a file that it names, or that lie in its own text. */
    private function named(mixed $uri, string $path): string
    {
        if (\is_string($uri) && preg_match('#^data:[^,]{0,200};base64,#', $uri, $found) === 1) {
            $bytes = base64_decode(substr($uri, \strlen($found[0])), true);

            return $bytes === false ? throw UnreadableMesh::at($this->file, $path, 'expected base64') : $bytes;
        }
        $name = \is_string($uri) ? basename(str_replace('\\', '/', rawurldecode($uri))) : '';

        return $this->others[$name] ?? throw UnreadableMesh::at($this->file, $path, \sprintf('%s is missing; bring it with the file, or all in a ZIP', self::shown($name)));
    }

    /**
     * The bytes of an image.
     *
     * @throws UnreadableMesh
     */
    public function image(mixed $number, string $path): string
    {
        $image = $this->item('images', $number, $path);
        $here = '/images/' . self::shown($number);
        if (!isset($image['bufferView'])) {
            return $this->named($image['uri'] ?? null, "$here/uri");
        }
        $length = $this->item('bufferViews', $image['bufferView'], "$here/bufferView")['byteLength'] ?? null;

        return $this->view($image['bufferView'], 0, 1, \is_int($length) && $length >= 0 ? $length : 0, "$here/bufferView");
    }

    /** @return array{string, string} JSON and the binary chunk */
    private static function chunks(string $bytes, string $file): array
    {
        /** @var array{version: int, length: int}|false $head */
        $head = \strlen($bytes) < 20 ? false : unpack('Vversion/Vlength', $bytes, 4);
        if ($head === false || $head['version'] !== 2) {
            throw UnreadableMesh::of($file, 'expected a binary glTF file of version 2');
        }
        if ($head['length'] > \strlen($bytes)) {
            throw UnreadableMesh::of($file, \sprintf('it is cut off: it should have %d bytes and has %d', $head['length'], \strlen($bytes)));
        }
        $found = ['JSON' => '', "BIN\0" => ''];
        for ($at = 12; $at + 8 <= $head['length']; $at += 8 + $size) {
            /** @var array{size: int} $chunk */
            $chunk = unpack('Vsize', $bytes, $at);
            $size = $chunk['size'];
            if ($at + 8 + $size > $head['length']) {
                throw UnreadableMesh::at($file, "byte $at", 'a chunk reaches beyond the end of the file');
            }
            $kind = substr($bytes, $at + 4, 4);
            if (isset($found[$kind]) && $found[$kind] === '') {
                $found[$kind] = substr($bytes, $at + 8, $size);
            }
        }

        return [$found['JSON'], $found["BIN\0"]];
    }

    /** @param array<array-key, mixed> $part */
    public function unpackedOnly(array $part, string $path): void
    {
        foreach (\is_array($part['extensions'] ?? null) ? array_keys($part['extensions']) : [] as $name) {
            if (isset(self::PACKED_BY[$name])) {
                throw UnreadableMesh::at($this->file, $path, \sprintf('it is packed by %s; bring it in the browser, which unpacks it, or export it unpacked', self::PACKED_BY[$name]));
            }
        }
    }

    public function view(mixed $number, mixed $offset, int $size, int $count, string $path): string
    {
        $view = $this->item('bufferViews', $number, $path);
        $here = '/bufferViews/' . self::shown($number);
        $this->unpackedOnly($view, $here);
        $from = $view['byteOffset'] ?? 0;
        $length = $view['byteLength'] ?? null;
        $stride = $view['byteStride'] ?? $size;
        $buffer = $this->buffer($view['buffer'] ?? null, "$here/buffer");
        if (!\is_int($from) || !\is_int($length) || !\is_int($stride) || !\is_int($offset) || $from < 0 || $length < 0 || $offset < 0 || $stride < 1 || $stride > 252 && $stride !== $size || $from + $length > \strlen($buffer)) {
            throw UnreadableMesh::at($this->file, $here, \sprintf('it does not lie in its buffer of %d bytes', \strlen($buffer)));
        }
        if ($count > 0 && $offset + $stride * ($count - 1) + $size > $length) {
            throw UnreadableMesh::at($this->file, $here, \sprintf('%d elements do not fit in its %d bytes', $count, $length));
        }
        $start = $from + $offset;
        if ($stride === $size) {
            return substr($buffer, $start, $size * $count);
        }
        $parts = [];
        for ($i = 0; $i < $count; ++$i) {
            $parts[] = substr($buffer, $start + $i * $stride, $size);
        }

        return implode('', $parts);
    }

    private function buffer(mixed $number, string $path): string
    {
        $buffer = $this->item('buffers', $number, $path);
        if (\is_int($number) && isset($this->buffers[$number])) {
            return $this->buffers[$number];
        }
        $uri = $buffer['uri'] ?? null;
        $here = '/buffers/' . self::shown($number);
        $bytes = $uri === null ? $this->chunk : $this->named($uri, "$here/uri");
        if (!\is_int($buffer['byteLength'] ?? null) || $buffer['byteLength'] > \strlen($bytes)) {
            throw UnreadableMesh::at($this->file, $here, \sprintf('it should have %s bytes and has %d', self::shown($buffer['byteLength'] ?? null), \strlen($bytes)));
        }

        return $this->buffers[\is_int($number) ? $number : 0] = $bytes;
    }

    /** @return list<mixed> */
    public function list(string $name): array
    {
        return \is_array($this->json[$name] ?? null) ? array_values($this->json[$name]) : [];
    }

    /** @return array<array-key, mixed> */
    public function item(string $list, mixed $number, string $path): array
    {
        $item = \is_int($number) && $number >= 0 ? $this->list($list)[$number] ?? null : null;

        return \is_array($item) ? $item : throw UnreadableMesh::at($this->file, $path, \sprintf('expected the number of one of the %d %s, found %s', \count($this->list($list)), $list, self::shown($number)));
    }

    /** @return list<float> */
    public function numbers(mixed $value, int $count, string $path): array
    {
        if (!\is_array($value) || \count($value) !== $count || array_filter($value, static fn (mixed $one): bool => (\is_int($one) || \is_float($one)) && is_finite((float) $one)) !== $value) {
            throw UnreadableMesh::at($this->file, $path, "expected $count numbers");
        }

        return array_map(static fn (int|float $one): float => (float) $one, array_values($value));
    }

    public static function shown(mixed $value): string
    {
        return \is_scalar($value) ? mb_scrub(substr((string) json_encode($value, \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_SLASHES), 0, 80)) : ($value === null ? 'nothing' : 'something else');
    }
}
