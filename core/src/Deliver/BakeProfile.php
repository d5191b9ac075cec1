<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Bake\Channel;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Material\Checks;

/** What is wanted of baked images: sizes, formats, what is packed, and names. */
final readonly class BakeProfile
{
    public const SIZES = [64, 128, 256, 512, 1024, 2048, 4096, 8192];
    /** Of images with all their levels. */
    private const LARGEST_LEVELS = 4096;
    /** What patterns of names may be made of. */
    public const PARTS = ['{material}', '{variant}', '{role}'];
    private const LONGEST_PATTERN = 80;

    /**
     * @param int                $size    pixels a side
     * @param array<string, int> $sizes   of channels and packed images that have another, by name
     * @param PictureFormat      $files   what they are written as
     * @param bool               $greenUp whether green of a normal map grows upwards
     * @param bool               $two     whether normals keep x and y alone
     * @param string             $names   pattern
     * @param list<PackedImage>  $packed
     */
    private function __construct(public int $size, public array $sizes, public PictureFormat $files, public bool $greenUp, public bool $two, public string $names, public array $packed)
    {
    }

    public static function read(Checks $checks, mixed $said, string $path): self
    {
        $data = $checks->object($said, $path, ['size', 'sizes', 'files', 'green', 'normals', 'names', 'packed']);
        $size = self::size($checks, $data['size'] ?? null, "$path/size");
        $files = PictureFormat::tryFrom($checks->oneOf($data['files'] ?? 'png', "$path/files", array_column(PictureFormat::cases(), 'value'))) ?? PictureFormat::Png;
        $greenUp = $checks->oneOf($data['green'] ?? '+y', "$path/green", ['+y', '-y']) === '+y';
        $two = $checks->oneOf($data['normals'] ?? 'xyz', "$path/normals", ['xyz', 'xy']) === 'xy';
        if ($two && !$files->hasLevels()) {
            $checks->problem("$path/normals", \sprintf('expected xyz: %s has no images of two values', $files->value));
        }
        $names = \is_string($data['names'] ?? '{material}_{role}') ? $data['names'] ?? '{material}_{role}' : '';
        $wrong = self::objection($names);
        if ($wrong !== null) {
            $checks->problem("$path/names", $wrong);
        }
        $packed = [];
        foreach ($checks->items($data['packed'] ?? [], "$path/packed", 0, PackedImage::MOST) as $i => $one) {
            $image = PackedImage::read($checks, $one, "$path/packed/$i");
            if ($image !== null && isset($packed[$image->name])) {
                $checks->problem("$path/packed/$i/name", "expected another name: \"$image->name\" is one of those before");
            } elseif ($image !== null) {
                $packed[$image->name] = $image;
            }
        }
        $known = [...array_column(Channel::cases(), 'value'), ...array_keys($packed)];
        $sizes = [];
        foreach ($checks->object($data['sizes'] ?? [], "$path/sizes", $known) as $name => $one) {
            $sizes[(string) $name] = self::size($checks, $one, "$path/sizes/$name");
        }
        if ($files->hasLevels() && max([$size, ...array_values($sizes)]) > self::LARGEST_LEVELS) {
            $checks->problem("$path/size", \sprintf('expected at most %d with mip levels; PNG and TGA may be larger', self::LARGEST_LEVELS));
        }

        return new self($size, $sizes, $files, $greenUp, $two, $names, array_values($packed));
    }

    /** What is wrong with a pattern of names, or null. */
    public static function objection(string $pattern): ?string
    {
        $rest = str_replace(self::PARTS, '', $pattern);

        return match (true) {
            !str_contains($pattern, '{role}') => 'expected {role} in it, or all images would have one name',
            \strlen($pattern) > self::LONGEST_PATTERN || preg_match('/^[A-Za-z0-9._-]*$/D', $rest) !== 1 => \sprintf('expected letters, digits, dots, dashes, underscores and %s, at most %d characters', implode(', ', self::PARTS), self::LONGEST_PATTERN),
            str_starts_with($pattern, '.') => 'expected no dot in front: such files are hidden',
            default => null,
        };
    }

    /** The name of an image, without its extension. */
    public function nameOf(string $material, string $variant, string $role): string
    {
        $name = strtr($this->names, ['{material}' => $material, '{variant}' => $variant, '{role}' => $role]);

        // Where there is no variant, what parted it from the rest is not left over.
        return trim((string) preg_replace('/([._-])[._-]+/', '$1', $name), '._-');
    }

    /** Pixels a side of a channel or a packed image. */
    public function sizeOf(string $name): int
    {
        return $this->sizes[$name] ?? $this->size;
    }

    /** Pixels a side that all of it is computed at: smaller ones are averaged from it. */
    public function largest(): int
    {
        return max([$this->size, ...array_values($this->sizes)]);
    }

    /** Whether a channel comes as an image of its own: what is packed does not. */
    public function isAlone(Channel $channel): bool
    {
        foreach ($this->packed as $image) {
            if (\in_array($channel, $image->roles(), true)) {
                return false;
            }
        }

        return true;
    }

    private static function size(Checks $checks, mixed $said, string $path): int
    {
        if (!\is_int($said) || !\in_array($said, self::SIZES, true)) {
            $checks->problem($path, \sprintf('expected one of %s, found %s', implode(', ', self::SIZES), Checks::show($said)));

            return self::SIZES[0];
        }

        return $said;
    }
}
