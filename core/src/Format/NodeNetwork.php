<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/**
 * The nodes of a MaterialX document, computed: what an input comes to for given coordinates and given texels. What is not here cannot be read.
 *
 * https://github.com/AcademySoftwareFoundation/MaterialX/blob/main/documents/Specification/MaterialX.StandardNodes.md
 */
final class NodeNetwork
{
    private const WIDTHS = ['float' => 1, 'integer' => 1, 'boolean' => 1, 'vector2' => 2, 'vector3' => 3, 'vector4' => 4, 'color3' => 3, 'color4' => 4];
    /** Of inputs that are not said, where it is not 0. */
    private const USUAL = ['scale' => 1.0, 'amplitude' => 1.0, 'high' => 1.0, 'uvtiling' => 1.0, 'value1' => 1.0, 'mix' => 0.0];
    private const DEEPEST = 4000;

    /** @var array<string, \DOMElement> nodes that read an image, by their places */
    private array $images = [];

    /** @var array<string, list<float>> by place of the node */
    private array $known = [];

    private int $depth = 0;

    /**
     * @param array<int, array{float, float}> $uvs    of each set, from the lower left
     * @param array<string, list<float>>      $texels what images read, four numbers each, by their places; white where they are not said
     */
    public function __construct(private readonly array $uvs = [], private readonly array $texels = [])
    {
    }

    /**
     * The images that were read so far.
     *
     * @return array<string, \DOMElement> by their places
     */
    public function images(): array
    {
        return $this->images;
    }

    /**
     * What an input comes to.
     *
     * @return list<float> as many numbers as its type has
     *
     * @throws \DomainException that says which node is not known here
     */
    public function input(\DOMElement $input): array
    {
        $source = self::source($input);
        if (\is_array($source)) {
            return $source;
        }
        if ($source === null) {
            throw new \DomainException("what \"{$input->getAttribute('name')}\" is connected to");
        }
        $place = (string) $source->getNodePath();
        if (!isset($this->known[$place])) {
            if (++$this->depth > self::DEEPEST) {
                throw new \DomainException('nodes that read themselves');
            }
            $this->known[$place] = $this->node($source, $place);
            --$this->depth;
        }

        return $this->known[$place];
    }

    /** The input of a node by its name; null if it has none. */
    public static function of(\DOMElement $node, string $name): ?\DOMElement
    {
        foreach ($node->childNodes as $child) {
            if ($child instanceof \DOMElement && $child->localName === 'input' && $child->getAttribute('name') === $name) {
                return $child;
            }
        }

        return null;
    }

    /**
     * Where an input comes from.
     *
     * @return list<float>|\DOMElement|null numbers, the node, or null if it leads nowhere
     */
    private static function source(\DOMElement $input): array|\DOMElement|null
    {
        if ($input->hasAttribute('interfacename')) {
            $graph = self::around($input);
            $outer = $graph === null ? null : self::of($graph, $input->getAttribute('interfacename'));

            return $outer === null ? null : self::source($outer);
        }
        if ($input->hasAttribute('nodegraph')) {
            $graph = self::named($input->ownerDocument?->documentElement, $input->getAttribute('nodegraph'));
            $name = $input->getAttribute('output');
            foreach ($graph->childNodes ?? [] as $child) {
                if ($child instanceof \DOMElement && $child->localName === 'output' && ($name === '' || $child->getAttribute('name') === $name)) {
                    return self::source($child);
                }
            }

            return null;
        }
        if ($input->hasAttribute('nodename')) {
            return self::named(self::around($input) ?? $input->ownerDocument?->documentElement, $input->getAttribute('nodename'));
        }
        $numbers = array_map(static fn (string $one): float => $one === 'true' ? 1.0 : (float) $one, array_map(trim(...), explode(',', $input->getAttribute('value'))));
        $width = self::WIDTHS[$input->getAttribute('type')] ?? \count($numbers);

        return $input->hasAttribute('value') && \count($numbers) === $width ? $numbers : null;
    }

    /** The nodegraph that an element lies in. */
    private static function around(\DOMElement $element): ?\DOMElement
    {
        for ($up = $element->parentNode; $up instanceof \DOMElement; $up = $up->parentNode) {
            if ($up->localName === 'nodegraph') {
                return $up;
            }
        }

        return null;
    }

    private static function named(?\DOMElement $in, string $name): ?\DOMElement
    {
        foreach ($in->childNodes ?? [] as $child) {
            if ($child instanceof \DOMElement && $child->getAttribute('name') === $name && !\in_array($child->localName, ['input', 'output'], true)) {
                return $child;
            }
        }

        return null;
    }

    /** @return list<float> */
    private function node(\DOMElement $node, string $place): array
    {
        $width = self::WIDTHS[$node->getAttribute('type')] ?? throw new \DomainException("a node of the type \"{$node->getAttribute('type')}\"");
        $in = fn (string $name, ?float $usual = null): array => $this->wide(self::of($node, $name), $name, $width, $usual);
        $one = fn (string $name): float => $this->wide(self::of($node, $name), $name, 1)[0];
        switch ($node->localName) {
            case 'constant':
                return $in('value');
            case 'convert':
            case 'dot':
                return \array_slice(array_pad($this->all($node, 'in'), $width, $width === 4 ? 1.0 : 0.0), 0, $width);
            case 'image':
            case 'tiledimage':
                return $this->image($node, $place, $width);
            case 'texcoord':
                return $this->uvs[(int) $one('index')] ?? throw new \DomainException('a set of UVs beyond the fourth');
            case 'normal':
                return [0.0, 0.0, 1.0];
            case 'tangent':
                return [1.0, 0.0, 0.0];
            case 'bitangent':
                return [0.0, 1.0, 0.0];
            case 'time':
                return [0.0];
            case 'add':
                return self::each(static fn (float $a, float $b): float => $a + $b, $in('in1'), $in('in2'));
            case 'subtract':
                return self::each(static fn (float $a, float $b): float => $a - $b, $in('in1'), $in('in2'));
            case 'multiply':
                return self::each(static fn (float $a, float $b): float => $a * $b, $in('in1'), $in('in2', 1.0));
            case 'divide':
                return self::each(static fn (float $a, float $b): float => fdiv($a, $b), $in('in1'), $in('in2', 1.0));
            case 'min':
                return self::each(static fn (float $a, float $b): float => min($a, $b), $in('in1'), $in('in2'));
            case 'max':
                return self::each(static fn (float $a, float $b): float => max($a, $b), $in('in1'), $in('in2'));
            case 'power':
                return self::each(static fn (float $a, float $b): float => $a ** $b, $in('in1'), $in('in2', 1.0));
            case 'absval':
                return self::each(abs(...), $in('in'));
            case 'floor':
                return self::each(floor(...), $in('in'));
            case 'fract':
                return self::each(static fn (float $a): float => $a - floor($a), $in('in'));
            case 'sqrt':
                return self::each(static fn (float $a): float => sqrt(max(0.0, $a)), $in('in'));
            case 'sin':
                return self::each(sin(...), $in('in'));
            case 'cos':
                return self::each(cos(...), $in('in'));
            case 'ln':
                return self::each(static fn (float $a): float => log(max(1e-30, $a)), $in('in'));
            case 'mix':
                return self::each(static fn (float $a, float $b, float $t): float => $a + ($b - $a) * $t, $in('bg'), $in('fg'), $in('mix'));
            case 'clamp':
                return self::each(static fn (float $a, float $low, float $high): float => max($low, min($high, $a)), $in('in'), $in('low'), $in('high'));
            case 'smoothstep':
                return self::each(static function (float $a, float $low, float $high): float {
                    $t = max(0.0, min(1.0, fdiv($a - $low, $high - $low)));

                    return $t * $t * (3 - 2 * $t);
                }, $in('in'), $in('low'), $in('high'));
            case 'ifgreater':
                return $one('value1') > $one('value2') ? $in('in1') : $in('in2');
            case 'ifgreatereq':
                return $one('value1') >= $one('value2') ? $in('in1') : $in('in2');
            case 'extract':
                return [$this->all($node, 'in')[(int) $one('index')] ?? 0.0];
            case 'combine2':
            case 'combine3':
            case 'combine4':
                return array_map(static fn (int $i): float => $one("in$i"), range(1, $width));
            case 'dotproduct':
                [$first, $second] = [$this->all($node, 'in1'), $this->all($node, 'in2')];

                return [array_sum(array_map(static fn (int $i): float => $first[$i] * ($second[$i] ?? 0.0), array_keys($first)))];
            case 'crossproduct':
                [[$a, $b, $c], [$d, $e, $f]] = [array_pad($in('in1'), 3, 0.0), array_pad($in('in2'), 3, 0.0)];

                return [$b * $f - $c * $e, $c * $d - $a * $f, $a * $e - $b * $d];
            case 'magnitude':
                return [sqrt(array_sum(array_map(static fn (float $a): float => $a * $a, $this->all($node, 'in'))))];
            case 'normalize':
                $length = sqrt(array_sum(array_map(static fn (float $a): float => $a * $a, $in('in'))));

                return self::each(static fn (float $a): float => $length > 0.0 ? $a / $length : $a, $in('in'));
            case 'normalmap':
                $scale = $one('scale');
                $told = array_map(static fn (float $a): float => 2 * $a - 1, $in('in'));
                $n = [$scale * $told[0], $scale * ($told[1] ?? 0.0), $told[2] ?? 1.0];
                $length = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);

                return array_map(static fn (float $a): float => $length > 0.0 ? $a / $length : $a, $n);
            case 'place2d':
                return $this->placed($node);
            default:
                throw new \DomainException("\"$node->localName\"");
        }
    }

    /** @return list<float> */
    private function image(\DOMElement $node, string $place, int $width): array
    {
        $this->images[$place] = $node;

        return \array_slice($this->texels[$place] ?? [1.0, 1.0, 1.0, 1.0], 0, $width);
    }

    /**
     * Where an image is read.
     *
     * @return array{float, float} from its lower left corner
     */
    public function at(\DOMElement $image): array
    {
        $texcoord = self::of($image, 'texcoord');
        [$u, $v] = $texcoord === null ? $this->uvs[0] : array_pad($this->input($texcoord), 2, 0.0);
        if ($image->localName === 'tiledimage') {
            [[$x, $y], [$du, $dv]] = [$this->wide(self::of($image, 'uvtiling'), 'uvtiling', 2), $this->wide(self::of($image, 'uvoffset'), 'uvoffset', 2)];

            return [$u * $x - $du, $v * $y - $dv];
        }

        return [$u, $v];
    }

    /** @return array{float, float} */
    private function placed(\DOMElement $node): array
    {
        $two = fn (string $name): array => $this->wide(self::of($node, $name), $name, 2);
        $texcoord = self::of($node, 'texcoord');
        [[$u, $v], [$pu, $pv], [$x, $y], [$du, $dv]] = [$texcoord === null ? $this->uvs[0] : array_pad($this->input($texcoord), 2, 0.0), $two('pivot'), $two('scale'), $two('offset')];
        $turn = deg2rad($this->wide(self::of($node, 'rotate'), 'rotate', 1)[0]);
        $turned = static fn (float $a, float $b): array => [cos($turn) * $a + sin($turn) * $b, cos($turn) * $b - sin($turn) * $a];
        [$u, $v] = [$u - $pu, $v - $pv];
        if ((int) $this->wide(self::of($node, 'operationorder'), 'operationorder', 1)[0] === 0) {
            [$u, $v] = $turned(fdiv($u, $x), fdiv($v, $y));

            return [$u - $du + $pu, $v - $dv + $pv];
        }
        [$u, $v] = $turned($u - $du, $v - $dv);

        return [fdiv($u, $x) + $pu, fdiv($v, $y) + $pv];
    }

    /** @return list<float> */
    private function all(\DOMElement $node, string $name): array
    {
        $input = self::of($node, $name);

        return $input === null ? [0.0] : $this->input($input);
    }

    /** @return list<float> one number for all, or as many as are wanted */
    private function wide(?\DOMElement $input, string $name, int $width, ?float $usual = null): array
    {
        $found = $input === null ? [$usual ?? self::USUAL[$name] ?? 0.0] : $this->input($input);

        return \count($found) === 1 ? array_fill(0, $width, $found[0]) : array_pad(\array_slice($found, 0, $width), $width, 0.0);
    }

    /**
     * @param \Closure(float, float, float): float|\Closure(float, float): float|\Closure(float): float $of
     * @param list<float>                                                                               ...$parts as many numbers each
     *
     * @return list<float>
     */
    private static function each(\Closure $of, array ...$parts): array
    {
        $results = [];
        foreach (array_keys($parts[0] ?? []) as $i) {
            $results[] = (float) $of(...array_column($parts, $i));
        }

        return $results;
    }
}
