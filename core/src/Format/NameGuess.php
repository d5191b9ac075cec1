<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Material\Role;

/** What a file name says of a map: its role, its set, which of several alternates it is, and how its channels are meant. */
final readonly class NameGuess
{
    /** Words for roles, as they stand in file names; word groups are written with a space. */
    private const WORDS = [
        'base-colour' => ['base color', 'base colour', 'basecolor', 'basecolour', 'base', 'albedo', 'alb', 'diffuse', 'diff', 'dif', 'color', 'colour', 'col', 'clr', 'bc'],
        'normal' => ['normal', 'normals', 'nrm', 'nor', 'norm', 'nml', 'nmap', 'normal map', 'normalmap'],
        'roughness' => ['roughness', 'rough', 'rgh', 'rgn', 'gloss', 'glossiness', 'smoothness', 'smooth', 'gls'],
        'metallic' => ['metallic', 'metalness', 'metal', 'mtl', 'met', 'metallness'],
        'occlusion' => ['ambient occlusion', 'ambientocclusion', 'occlusion', 'occ', 'ao', 'cavity'],
        'height' => ['height', 'displacement', 'disp', 'dsp', 'bump', 'heightmap', 'depth', 'hgt'],
        'opacity' => ['opacity', 'alpha', 'cutout', 'transparency', 'opac'],
        'emission' => ['emission', 'emissive', 'emit', 'glow', 'emis', 'ems'],
        'mask' => ['mask', 'msk'],
    ];

    /** Single letters count at the end alone. */
    private const LETTERS = ['n' => 'normal', 'd' => 'base-colour', 'c' => 'base-colour', 'r' => 'roughness', 'g' => 'roughness', 'm' => 'metallic', 'o' => 'occlusion', 'h' => 'height', 'e' => 'emission'];

    /** What says smoothness. */
    private const SMOOTH = ['gloss', 'glossiness', 'smoothness', 'smooth', 'gls', 'g'];

    /** Initials of roles that lie in red, green, blue and alpha. */
    private const PACKED = ['orm', 'ormh', 'arm', 'armh', 'aorm', 'rma', 'rmao', 'rmo', 'mra', 'mrao', 'mro', 'ram', 'rom', 'omr', 'amr', 'orh', 'arh', 'mohs', 'mahs', 'mas', 'mos', 'maos'];
    private const INITIALS = ['o' => 'occlusion', 'a' => 'occlusion', 'r' => 'roughness', 'm' => 'metallic', 'h' => 'height', 's' => 'roughness'];

    private const GREEN = ['dx' => true, 'directx' => true, 'gl' => false, 'opengl' => false, 'ogl' => false];

    /** Words around a name that say nothing. */
    private const EMPTY = ['t', 'tx', 'tex', 'texture', 'map', 'maps', 'copy', '8bit', '16bit', '8b', '16b'];

    /**
     * @param string                                                    $set       a name for documents: lower case, hyphens
     * @param string                                                    $family    the same without the number of the alternate
     * @param ?int                                                      $alternate which of several it is, if it has a number
     * @param bool                                                      $inverted  whether it says the opposite: smoothness
     * @param ?bool                                                     $greenDown whether a normal's green channel points down, if the name says
     * @param list<array{role: Role, channels: string, inverted: bool}> $channels  of a packed map
     * @param string                                                    $reason    in words, for the person who confirms it
     */
    private function __construct(
        public Role $role,
        public string $set,
        public string $family,
        public ?int $alternate,
        public bool $inverted,
        public ?bool $greenDown,
        public array $channels,
        public string $reason,
    ) {
    }

    public static function of(string $file): self
    {
        $words = self::words(pathinfo($file, \PATHINFO_FILENAME));
        [$role, $said, $at, $length] = self::find($words);
        $packed = $role === Role::Packed ? self::unpacked($said) : [];
        $reasons = [$said === '' ? 'no word for a role in the name' : \sprintf('"%s" in the name', $said)];
        $green = null;
        $rest = [];
        foreach ($words as $i => $word) {
            if ($i >= $at && $i < $at + $length) {
                continue;
            }
            if ($role === Role::Normal && isset(self::GREEN[$word])) {
                $green = self::GREEN[$word];
                $reasons[] = \sprintf('"%s": green points %s', $word, $green ? 'down' : 'up');
                continue;
            }
            $rest[] = $word;
        }
        $inverted = \in_array($said, self::SMOOTH, true);
        if ($inverted) {
            $reasons[] = 'smoothness, the opposite of roughness';
        }
        foreach ($packed as $one) {
            $reasons[] = \sprintf('%s: %s', strtr($one['channels'], 'xyzw', 'RGBA'), $one['inverted'] ? 'smoothness' : lcfirst($one['role']->label()));
        }
        [$alternate, $family] = self::alternate($rest);

        return new self($role, self::slug(implode('-', $rest)), $family, $alternate, $inverted, $green, $packed, implode('; ', $reasons));
    }

    /** The name as documents write it. */
    public static function slug(string $name): string
    {
        $ascii = \function_exists('transliterator_transliterate') ? transliterator_transliterate('Any-Latin; Latin-ASCII; Lower()', $name) : false;
        $slug = trim((string) preg_replace('/[^a-z0-9]+/', '-', $ascii === false ? strtolower($name) : $ascii), '-');

        return $slug === '' ? 'maps' : rtrim(substr($slug, 0, 80), '-');
    }

    /**
     * The role, the word for it, and where it stands. The last match counts: "metal-plate-normal" is a normal map of a metal plate.
     *
     * @param list<string> $words
     *
     * @return array{Role, string, int, int}
     */
    private static function find(array $words): array
    {
        $last = \count($words) - 1;
        while ($last > 0 && (ctype_digit($words[$last]) || isset(self::GREEN[$words[$last]]))) {
            --$last;
        }
        $letter = self::LETTERS[$words[$last] ?? ''] ?? null;
        if ($last > 0 && $letter !== null) {
            return [Role::from($letter), $words[$last], $last, 1];
        }
        foreach ([2, 1] as $length) {
            for ($i = \count($words) - $length; $i >= 0; --$i) {
                $group = implode(' ', \array_slice($words, $i, $length));
                foreach (self::WORDS as $role => $known) {
                    if (\in_array($group, $known, true)) {
                        return [Role::from($role), $group, $i, $length];
                    }
                }
            }
        }
        // Initials are words as well ("arm", "ram"): they count where nothing else does, and not in front.
        for ($i = \count($words) - 1; $i > 0; --$i) {
            if (\in_array($words[$i], self::PACKED, true)) {
                return [Role::Packed, $words[$i], $i, 1];
            }
        }

        return [Role::BaseColour, '', -1, 0];
    }

    /** @return list<array{role: Role, channels: string, inverted: bool}> */
    private static function unpacked(string $word): array
    {
        $channels = [];
        foreach (str_split(str_replace('ao', 'o', $word)) as $i => $initial) {
            $channels[] = ['role' => Role::from(self::INITIALS[$initial]), 'channels' => 'xyzw'[$i], 'inverted' => $initial === 's'];
        }

        return $channels;
    }

    /**
     * The last number, if it is short, and the name without it.
     *
     * @param list<string> $words
     *
     * @return array{?int, string}
     */
    private static function alternate(array $words): array
    {
        $last = $words[\count($words) - 1] ?? '';
        if (\count($words) < 2 || preg_match('/^\d{1,2}$/D', $last) !== 1) {
            return [null, self::slug(implode('-', $words))];
        }

        return [(int) $last, self::slug(implode('-', \array_slice($words, 0, -1)))];
    }

    /** @return list<string> lower case, without what tells a resolution or nothing */
    private static function words(string $name): array
    {
        $whole = (string) preg_replace(['/open[ _-]?gl/i', '/direct[ _-]?x/i'], [' opengl ', ' directx '], $name);
        $spaced = (string) preg_replace(['/(?<=[a-z])(?=[A-Z])/', '/(?<=\d)(?=[A-Z][a-z])/', '/(?<=[A-Z])(?=[A-Z][a-z])/', '/[^\p{L}\p{N}]+/u'], ' ', $whole);
        // A number sticks to its word: "rock01", "Albedo2K"; two letters that say the way of green do so too: "NormalDX".
        $spaced = (string) preg_replace(['/(\p{L}{3,})(\d{1,2}|\d{1,2}[kK]|\d{3,5}x\d{3,5})(?= |$)/u', '/\b(normals?|nrm|nor)(dx|gl)\b/i'], '$1 $2', $spaced);
        $words = preg_split('/ +/', mb_strtolower(trim($spaced))) ?: [];
        $kept = array_values(array_filter($words, static fn (string $w): bool => $w !== '' && !self::isResolution($w)));
        $telling = array_values(array_filter($kept, static fn (string $w): bool => !\in_array($w, self::EMPTY, true)));

        return $telling === [] ? $kept : $telling;
    }

    private static function isResolution(string $word): bool
    {
        if (preg_match('/^\d{1,2}k$|^\d{3,5}x\d{3,5}$/D', $word) === 1) {
            return true;
        }
        $size = preg_match('/^(\d{3,5})(?:px)?$/D', $word, $found) === 1 ? (int) $found[1] : 0;

        return $size >= 128 && $size <= 16384 && ($size & ($size - 1)) === 0;
    }
}
