<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Material\Role;

/** What a file name says of a map: its role and the name of its set. */
final readonly class NameGuess
{
    /** Words for roles, as they stand in file names; word groups are written with a space. */
    private const WORDS = [
        'base-colour' => ['base color', 'base colour', 'basecolor', 'basecolour', 'albedo', 'diffuse', 'diff', 'color', 'colour', 'col', 'bc'],
        'normal' => ['normal', 'normals', 'nrm', 'nor', 'norm', 'nml', 'normal gl', 'normal dx', 'normalgl', 'normaldx'],
        'roughness' => ['roughness', 'rough', 'rgh'],
        'metallic' => ['metallic', 'metalness', 'metal', 'mtl'],
        'occlusion' => ['ambient occlusion', 'ambientocclusion', 'occlusion', 'occ', 'ao'],
        'height' => ['height', 'displacement', 'disp', 'bump'],
        'opacity' => ['opacity', 'alpha', 'cutout', 'transparency'],
        'emission' => ['emission', 'emissive', 'emit', 'glow'],
        'mask' => ['mask', 'msk'],
    ];

    /**
     * @param string $set    a name for documents: lower case, hyphens
     * @param string $reason in words, for the person who confirms it
     */
    private function __construct(public Role $role, public string $set, public string $reason)
    {
    }

    public static function of(string $file): self
    {
        $words = self::words(pathinfo($file, \PATHINFO_FILENAME));
        foreach ([2, 1] as $length) {
            // The last match counts: "metal-plate-normal" is a normal map of a metal plate.
            for ($i = \count($words) - $length; $i >= 0; --$i) {
                $group = implode(' ', \array_slice($words, $i, $length));
                $role = self::role($group);
                if ($role !== null) {
                    array_splice($words, $i, $length);

                    return new self($role, self::set($words), \sprintf('"%s" in the name', $group));
                }
            }
        }

        return new self(Role::BaseColour, self::set($words), 'no word for a role in the name');
    }

    /** The name as documents write it. */
    public static function slug(string $name): string
    {
        $ascii = \function_exists('transliterator_transliterate') ? transliterator_transliterate('Any-Latin; Latin-ASCII; Lower()', $name) : false;
        $slug = trim((string) preg_replace('/[^a-z0-9]+/', '-', $ascii === false ? strtolower($name) : $ascii), '-');

        return $slug === '' ? 'maps' : rtrim(substr($slug, 0, 80), '-');
    }

    private static function role(string $word): ?Role
    {
        foreach (self::WORDS as $role => $words) {
            if (\in_array($word, $words, true)) {
                return Role::from($role);
            }
        }

        return null;
    }

    /** @return list<string> lower case, without what tells a resolution */
    private static function words(string $name): array
    {
        $spaced = (string) preg_replace(['/(?<=[a-z])(?=[A-Z])/', '/[^\p{L}\p{N}]+/u'], ' ', $name);
        $words = preg_split('/ +/', mb_strtolower(trim($spaced))) ?: [];

        return array_values(array_filter($words, static fn (string $w): bool => $w !== '' && preg_match('/^(?:\d{1,2}k|\d{3,4}(?:x\d{3,4})?|8bit|16bit)$/D', $w) !== 1));
    }

    /** @param list<string> $words */
    private static function set(array $words): string
    {
        return self::slug(implode('-', $words));
    }
}
