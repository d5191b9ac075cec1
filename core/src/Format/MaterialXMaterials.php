<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Field\Sampling;
use Rilta\Core\Material\Checks;
use Rilta\Core\Material\Role;

/**
 * The materials of a MaterialX file, as far as each channel reads one image that lies along the mesh, times and plus numbers: whatever nodes say so
 * are computed, and what they come to is told. What is computed otherwise is named and left out.
 *
 * https://github.com/AcademySoftwareFoundation/MaterialX/tree/main/documents/Specification
 */
final class MaterialXMaterials
{
    public const MOST = 64;
    private const MOST_BYTES = 4 * 1048576;
    private const MOST_ELEMENTS = 60000;
    /** By kind of surface: the input of each channel, and what it is where it is not said. */
    private const SURFACES = [
        'gltf_pbr' => ['colour' => ['base_color', 1.0], 'metallic' => ['metallic', 1.0], 'roughness' => ['roughness', 1.0], 'normal' => ['normal', 0.0], 'occlusion' => ['occlusion', 1.0], 'opacity' => ['alpha', 1.0], 'emission' => ['emissive', 0.0], 'strength' => ['emissive_strength', 1.0]],
        'open_pbr_surface' => ['colour' => ['base_color', 0.8], 'metallic' => ['base_metalness', 0.0], 'roughness' => ['specular_roughness', 0.3], 'normal' => ['geometry_normal', 0.0], 'opacity' => ['geometry_opacity', 1.0]],
        'standard_surface' => ['colour' => ['base_color', 0.8], 'metallic' => ['metalness', 0.0], 'roughness' => ['specular_roughness', 0.2], 'normal' => ['normal', 0.0], 'emission' => ['emission_color', 1.0], 'strength' => ['emission', 0.0]],
        'UsdPreviewSurface' => ['colour' => ['diffuseColor', 0.18], 'metallic' => ['metallic', 0.0], 'roughness' => ['roughness', 0.5], 'occlusion' => ['occlusion', 1.0], 'opacity' => ['opacity', 1.0], 'emission' => ['emissiveColor', 0.0]],
    ];
    private const ROLES = ['colour' => Role::BaseColour, 'metallic' => Role::Metallic, 'roughness' => Role::Roughness, 'normal' => Role::Normal, 'occlusion' => Role::Occlusion, 'opacity' => Role::Opacity, 'emission' => Role::Emission];
    private const THREE = ['colour', 'normal', 'emission'];
    private const WRAPS = ['mirror' => 'mirror', 'clamp' => 'edge', 'constant' => 'edge'];
    /** How far numbers may be from a straight line, and directions from what they should be. */
    private const STRAIGHT = 1e-6;

    /** @var list<string> */
    private array $left = [];

    /** @param array<string, string> $others bytes of files that came with it, by name */
    private function __construct(private readonly string $file, private readonly array $others)
    {
    }

    /**
     * @param array<string, string> $others bytes of files that came with it, by name
     *
     * @return non-empty-list<ForeignMaterial>
     *
     * @throws UnreadableMesh where something else was expected
     */
    public static function read(string $bytes, string $file, array $others = []): array
    {
        $root = self::root($bytes, $file);
        $materials = [];
        foreach ($root->childNodes as $child) {
            if ($child instanceof \DOMElement && $child->localName === 'surfacematerial') {
                $materials[] = $child;
            }
        }
        if ($materials === [] || \count($materials) > self::MOST) {
            throw UnreadableMesh::of($file, \sprintf('expected 1 to %d materials ("surfacematerial"), found %d', self::MOST, \count($materials)));
        }

        return array_map(static fn (\DOMElement $one): ForeignMaterial => (new self($file, $others))->material($one), $materials);
    }

    /** @return list<string> names of files that it reads */
    public static function needs(string $bytes): array
    {
        try {
            $root = self::root($bytes, '');
        } catch (UnreadableMesh) {
            return [];
        }
        $names = [];
        foreach ($root->getElementsByTagName('input') as $input) {
            if ($input->getAttribute('type') === 'filename') {
                $names[] = self::named($input);
            }
        }

        return array_values(array_unique(array_filter($names, static fn (string $name): bool => $name !== '' && preg_match('~(^|/)\.\.(/|$)|^/|:~', $name) !== 1)));
    }

    private static function root(string $bytes, string $file): \DOMElement
    {
        $document = new \DOMDocument();
        // Entities of its own are none of MaterialX's, and could be endless.
        $read = \strlen($bytes) <= self::MOST_BYTES && stripos($bytes, '<!DOCTYPE') === false && @$document->loadXML($bytes, \LIBXML_NONET | \LIBXML_COMPACT);
        $root = $document->documentElement;
        if (!$read || $root === null || $root->localName !== 'materialx') {
            throw UnreadableMesh::of($file, 'expected a MaterialX document: XML with "materialx" around all');
        }
        if ($root->getElementsByTagName('*')->length > self::MOST_ELEMENTS) {
            throw UnreadableMesh::of($file, \sprintf('expected at most %d elements', self::MOST_ELEMENTS));
        }
        if (preg_match('/^1\.(3[6-9]|[4-9]\d)$/D', $root->getAttribute('version')) !== 1) {
            throw UnreadableMesh::at($file, 'materialx/version', \sprintf('expected 1.36 or later, found "%s"', substr($root->getAttribute('version'), 0, 20)));
        }

        return $root;
    }

    /** The file that an input names, with the prefixes around it. */
    private static function named(\DOMElement $input): string
    {
        $name = $input->getAttribute('value');
        for ($up = $input; $up instanceof \DOMElement; $up = $up->parentNode) {
            $name = $up->getAttribute('fileprefix') . $name;
        }

        return $name;
    }

    private function material(\DOMElement $one): ForeignMaterial
    {
        $here = $one->getAttribute('name');
        $name = trim(mb_scrub($one->getAttribute('uiname') ?: $here));
        $name = $name === '' ? 'Material' : mb_substr($name, 0, Checks::LONGEST_NAME);
        $input = NodeNetwork::of($one, 'surfaceshader');
        $surface = null;
        foreach ($one->parentNode->childNodes ?? [] as $child) {
            if ($child instanceof \DOMElement && $child->getAttribute('name') === $input?->getAttribute('nodename')) {
                $surface = $child;
            }
        }
        $inputs = $surface === null ? null : self::SURFACES[$surface->localName] ?? null;
        if ($surface === null || $inputs === null) {
            throw UnreadableMesh::at($this->file, $here, \sprintf('expected a surface of one of %s, found %s', implode(', ', array_keys(self::SURFACES)), $surface === null ? 'none' : "\"$surface->localName\""));
        }
        foreach ($surface->childNodes as $child) {
            if ($child instanceof \DOMElement && $child->localName === 'input' && !\in_array($child->getAttribute('name'), [...array_column($inputs, 0), 'alpha_mode', 'alpha_cutoff'], true)) {
                $this->left[] = mb_scrub(substr($child->getAttribute('name'), 0, 80));
            }
        }
        $finish = $groups = [];
        foreach (array_diff_key($inputs, ['strength' => 0]) as $channel => [$called, $usual]) {
            $found = $this->channel($channel, NodeNetwork::of($surface, $called), $usual);
            if ($found === null) {
                continue;
            }
            [$from, $to, $read] = $found;
            if ($channel === 'emission') {
                $times = isset($inputs['strength']) ? $this->channel('strength', NodeNetwork::of($surface, $inputs['strength'][0]), $inputs['strength'][1])[0][0] ?? 1.0 : 1.0;
                $to = array_map(static fn (float $x): float => $x * $times, $to);
                $from = array_map(static fn (float $x): float => $x * $times, $from);
            }
            $finish += $this->finish($channel, $from, $to, $read !== null);
            if ($read !== null) {
                $key = json_encode($read['steps'], \JSON_THROW_ON_ERROR);
                $groups[$key]['steps'] = $read['steps'];
                $groups[$key]['reads'][$channel] = $read;
            }
        }

        return $this->assembled($name, array_values($groups), $finish, $surface);
    }

    /**
     * What a channel is made of.
     *
     * @return ?array{non-empty-list<float>, non-empty-list<float>, ?array{steps: list<array<string, mixed>>, image: \DOMElement, channels: string}} what it is where the image is black, and where it is white;
     *                                                                                                                                               the image, if there is one; null for as usual, or if it cannot be read, which is noted
     */
    private function channel(string $channel, ?\DOMElement $input, float $usual): ?array
    {
        $width = \in_array($channel, self::THREE, true) ? 3 : 1;
        if ($input === null) {
            return $channel === 'normal' ? null : [array_fill(0, $width, $usual), array_fill(0, $width, $usual), null];
        }
        try {
            $first = self::network(0.3, 0.6);
            $plain = $first->input($input);
            $images = $first->images();
            if (\count($images) > 1) {
                throw new \DomainException('several images at once');
            }
            if ($images === []) {
                $numbers = self::numbers($plain, $width);
                if (max(array_map(static fn (float $a, float $b): float => abs($a - $b), $numbers, self::numbers(self::network(0.8, 0.1)->input($input), $width))) > self::STRAIGHT) {
                    throw new \DomainException('what is drawn by numbers alone');
                }

                return $channel === 'normal' ? null : [$numbers, $numbers, null];
            }
            [$place, $image] = [(string) array_key_first($images), reset($images)];
            $of = static fn (float ...$texel): array => self::numbers(self::network(0.3, 0.6, $place, array_values($texel))->input($input), $width);
            [$steps, $laid] = $this->laid($image);
            $read = ['steps' => $steps, 'image' => $image, 'channels' => ''];
            if ($channel === 'normal') {
                return [...self::relief($of, $laid), $read];
            }
            if ($width === 3) {
                [$black, $white] = [$of(0.0, 0.0, 0.0, 1.0), $of(1.0, 1.0, 1.0, 1.0)];
                self::straight($of(0.25, 0.5, 0.75, 1.0), array_map(static fn (float $a, float $b, float $t): float => $a + $t * ($b - $a), $black, $white, [0.25, 0.5, 0.75]));

                return [$black, $white, $read];
            }
            $dark = $of(0.0, 0.0, 0.0, 0.0)[0];
            $changes = array_filter(array_map(static fn (int $k): float => $of(...self::basis($k, 1.0))[0] - $dark, [0, 1, 2, 3]), static fn (float $by): bool => abs($by) > self::STRAIGHT);
            if (\count($changes) !== 1) {
                throw new \DomainException('several channels of an image at once');
            }
            $k = array_key_first($changes);
            self::straight($of(...self::basis($k, 0.4)), [$dark + 0.4 * $changes[$k]]);

            return [[$dark], [$dark + $changes[$k]], ['channels' => 'xyzw'[$k]] + $read];
        } catch (\DomainException $e) {
            $this->left[] = "$channel: {$e->getMessage()}";

            return null;
        }
    }

    /**
     * The nodes at a place of the mesh, in all its sets of UVs, where an image reads something.
     *
     * @param list<float> $texel
     */
    private static function network(float $u, float $v, string $image = '', array $texel = []): NodeNetwork
    {
        return new NodeNetwork(array_fill(0, 4, [$u, $v]), $image === '' ? [] : [$image => $texel]);
    }

    /** @return list<float> a texel in which one channel alone says something */
    private static function basis(int $channel, float $value): array
    {
        return array_map(static fn (int $k): float => $k === $channel ? $value : 0.0, [0, 1, 2, 3]);
    }

    /**
     * How far normals lean, as a factor of what an image says that lies in some way. They turn with their image.
     *
     * @param \Closure(float, float, float, float): non-empty-list<float> $of
     * @param array{float, float, float, float}                           $laid how its coordinates grow: u along u and v, v along u and v
     *
     * @return array{array{float}, array{float}}
     */
    private static function relief(\Closure $of, array $laid): array
    {
        [$a, $b, $c, $d] = $laid;
        [$right, $up] = [[$a / hypot($a, $b), -$b / hypot($a, $b)], [-$c / hypot($c, $d), $d / hypot($c, $d)]];
        $told = $of(0.75, 0.5, 0.5 + sqrt(3) / 4, 1.0);
        $relief = fdiv($told[0] * $right[0] + ($told[1] ?? 0.0) * $right[1], $told[2] ?? 0.0) * sqrt(3);
        $meant = [$relief * (-0.2 * $right[0] + 0.4 * $up[0]), $relief * (-0.2 * $right[1] + 0.4 * $up[1]), 0.8];
        $length = sqrt($meant[0] ** 2 + $meant[1] ** 2 + $meant[2] ** 2);
        self::straight($of(0.4, 0.7, 0.9, 1.0), array_map(static fn (float $x): float => $x / $length, $meant));

        return [[0.0], [$relief]];
    }

    /**
     * @param list<float> $found
     *
     * @return non-empty-list<float>
     */
    private static function numbers(array $found, int $width): array
    {
        $numbers = \count($found) === 1 ? array_fill(0, $width, $found[0]) : \array_slice($found, 0, $width);
        if (\count($numbers) !== $width || array_filter($numbers, is_finite(...)) !== $numbers || $numbers === []) {
            throw new \DomainException('numbers of another kind');
        }

        return $numbers;
    }

    /**
     * @param list<float> $found
     * @param list<float> $meant
     */
    private static function straight(array $found, array $meant): void
    {
        foreach ($meant as $i => $number) {
            // What is no number is near to none.
            if (!(abs(($found[$i] ?? \NAN) - $number) <= self::STRAIGHT)) {
                throw new \DomainException('an image that is bent by more than a factor and a sum');
            }
        }
    }

    /**
     * How an image lies, as the steps of a lane.
     *
     * @return array{list<array<string, mixed>>, array{float, float, float, float}} and how its coordinates grow: u along u and v, v along u and v
     */
    private function laid(\DOMElement $image): array
    {
        foreach ([0, 1, 2, 3] as $set) {
            $at = static function (float $u, float $v) use ($image, $set): array {
                $uvs = array_fill(0, 4, [0.0, 0.0]);
                // From the upper left there, too.
                $uvs[$set] = [$u, 1 - $v];
                [$x, $y] = (new NodeNetwork($uvs))->at($image);

                return [$x, 1 - $y];
            };
            [[$e, $f], [$p, $q], [$r, $s], [$x, $y]] = [$at(0.0, 0.0), $at(1.0, 0.0), $at(0.0, 1.0), $at(0.37, -1.6)];
            [$a, $b, $c, $d] = [$p - $e, $r - $e, $q - $f, $s - $f];
            if (!is_finite($a + $b + $c + $d + $e + $f) || max(abs($e), abs($f)) > 10000.0) {
                throw new \DomainException('an image that lies more than 10000 times away');
            }
            if (max(abs($a), abs($b), abs($c), abs($d)) < self::STRAIGHT) {
                continue;
            }
            self::straight([$x, $y], [$e + 0.37 * $a - 1.6 * $b, $f + 0.37 * $c - 1.6 * $d]);
            $turn = atan2(-$c, $a);
            [$scaleU, $scaleV] = [sqrt($a * $a + $c * $c), $b * sin($turn) + $d * cos($turn)];
            if (abs($b - $scaleV * sin($turn)) > self::STRAIGHT || abs($d - $scaleV * cos($turn)) > self::STRAIGHT || min($scaleU, abs($scaleV)) < 0.0001 || max($scaleU, abs($scaleV)) > 1000.0) {
                throw new \DomainException('an image that is laid askew, or more than 1000 times');
            }
            $clean = static fn (float $number): float => round($number, 9) + 0.0;

            return [ForeignLane::steps(['texCoord' => $set, 'scale' => [$clean($scaleU), $clean($scaleV)], 'turn' => -$clean(rad2deg($turn)) + 0.0, 'offset' => [$clean($e), $clean($f)]]), [$a, $b, $c, $d]];
        }
        throw new \DomainException('an image that lies along nothing of the mesh');
    }

    /**
     * @param non-empty-list<float> $from where the image is black
     * @param non-empty-list<float> $to   where it is white
     *
     * @return array<string, mixed> of the finish
     */
    private function finish(string $channel, array $from, array $to, bool $read): array
    {
        $dark = max(array_map(abs(...), $from));
        switch ($channel) {
            case 'colour':
                if ($read && $dark > self::STRAIGHT) {
                    $this->left[] = 'colour: what is added to its image';
                }

                return $read && $to === [1.0, 1.0, 1.0] ? [] : ['tint' => ForeignLane::encoded($to)];
            case 'emission':
                $most = max($to);

                return $most <= 0.0 ? [] : ['glow' => ForeignLane::encoded(array_map(static fn (float $x): float => $x / $most, $to)), 'glowStrength' => min(100000.0, 100 * $most)];
            case 'normal':
                return abs($to[0] - 1.0) < self::STRAIGHT ? [] : ['relief' => max(-2000.0, min(2000.0, 100 * $to[0]))];
            case 'opacity':
                return abs($to[0] - 1.0) < self::STRAIGHT ? [] : ['opacityFactor' => 100 * max(0.0, min(1.0, $to[0]))];
            case 'occlusion':
                return !$read || ($dark < self::STRAIGHT && abs($to[0] - 1.0) < self::STRAIGHT) ? [] : ['occlusionFrom' => max(0.0, min(1.0, $from[0])), 'occlusionTo' => max(0.0, min(1.0, $to[0]))];
            default:
                return $read && $dark < self::STRAIGHT && abs($to[0] - 1.0) < self::STRAIGHT ? [] : ["{$channel}From" => max(0.0, min(1.0, $from[0])), "{$channel}To" => max(0.0, min(1.0, $to[0]))];
        }
    }

    /**
     * @param list<array{steps: list<array<string, mixed>>, reads: non-empty-array<string, array{steps: list<array<string, mixed>>, image: \DOMElement, channels: string}>}> $groups
     * @param array<string, mixed>                                                                                                                                           $finish
     */
    private function assembled(string $name, array $groups, array $finish, \DOMElement $surface): ForeignMaterial
    {
        $slug = NameGuess::slug($name);
        [$sets, $lanes, $layers] = [[], [], []];
        foreach ($groups === [] ? [['steps' => ForeignLane::steps(['texCoord' => 0]), 'reads' => []]] : $groups as $i => ['steps' => $steps, 'reads' => $reads]) {
            $called = ForeignLane::SETS[$i] ?? 'lane-' . ($i + 1);
            $maps = $this->maps($reads, $slug);
            $set = $maps === [] ? '' : ($i === 0 ? $slug : "$slug-$called");
            if ($maps !== []) {
                $sets[] = new ForeignSet($set, $maps);
            }
            $lanes[] = ['id' => "lane-$called", 'name' => $i === 0 ? 'Main' : ucfirst($called), 'steps' => $steps];
            $writes = array_keys($reads);
            $layers[] = ['id' => $i === 0 ? 'ground' : "layer-$called", 'name' => $i === 0 ? $name : ucfirst(implode(', ', $writes)), 'lane' => "lane-$called", 'set' => $set]
                + ($i === 0 ? [] : ['channels' => $writes])
                + ($finish === [] ? [] : ['finish' => ['values' => $finish]]);
        }
        $mode = NodeNetwork::of($surface, 'alpha_mode')?->getAttribute('value') ?? '0';
        $cut = NodeNetwork::of($surface, 'alpha_cutoff')?->getAttribute('value') ?? '0.5';

        return new ForeignMaterial($name, $sets, $lanes, $layers, match ($mode) {
            '1' => ['kind' => 'cut-out', 'threshold' => 100 * max(0.0, min(1.0, (float) $cut))],
            '2' => ['kind' => 'translucent'],
            default => [],
        }, array_values(array_unique($this->left)));
    }

    /**
     * @param array<string, array{steps: list<array<string, mixed>>, image: \DOMElement, channels: string}> $reads
     *
     * @return list<ForeignMap>
     */
    private function maps(array $reads, string $slug): array
    {
        $files = [];
        foreach ($reads as $channel => $read) {
            $input = NodeNetwork::of($read['image'], 'file');
            $files[$input === null ? '' : self::named($input)][$channel] = $read;
        }
        $maps = [];
        foreach ($files as $file => $roles) {
            $bytes = $this->others[$file] ?? $this->others[basename((string) $file)] ?? null;
            if ($bytes === null) {
                $this->left[] = "$file: no such file came with it";
                continue;
            }
            $image = reset($roles)['image'];
            $told = static fn (string $input, string $usual): string => NodeNetwork::of($image, $input)?->getAttribute('value') ?? $usual;
            $sampling = Sampling::of(['filter' => $told('filtertype', 'linear') === 'closest' ? 'sharp' : 'smooth', 'wrapU' => self::WRAPS[$told('uaddressmode', '')] ?? 'repeat', 'wrapV' => self::WRAPS[$told('vaddressmode', '')] ?? 'repeat']);
            $extension = pathinfo((string) $file, \PATHINFO_EXTENSION);
            $alone = \count($roles) === 1 && \in_array(reset($roles)['channels'], ['', 'x'], true);
            $role = $alone ? self::ROLES[array_key_first($roles)] : Role::Packed;
            $maps[] = new ForeignMap(
                "$slug-" . ($role === Role::Packed ? 'packed-' . (\count($maps) + 1) : $role->value) . '.' . ($extension === '' ? 'png' : strtolower($extension)),
                $bytes,
                $role,
                $alone ? [] : array_map(static fn (string $channel, array $read): array => ['role' => self::ROLES[$channel], 'channels' => $read['channels'] === '' ? 'xyz' : $read['channels'], 'inverted' => false], array_keys($roles), array_values($roles)),
                $sampling,
            );
        }

        return $maps;
    }
}
