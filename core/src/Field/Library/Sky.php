<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Math\Vec;

/**
 * What surrounds a stage, by a formula: five levels of light from below to above that meet in soft edges, and four soft lobes, the last of
 * them around the sun. All of them keep their form when they are blurred, so that what a surface mirrors of them needs no table.
 *
 * An edge is the cumulative distribution of a Student t with two degrees of freedom, x / √(x² + s²): what GGX slopes come to along a line.
 * A lobe is (q / (q + d²))², the form of GGX itself, over the chord d. Blurring adds to the squared widths.
 */
final class Sky
{
    /** What it is described by: linear light, unit directions, sines of heights, squared widths. */
    public const FIELDS = [
        'level0' => Type::Vec3, 'level1' => Type::Vec3, 'level2' => Type::Vec3, 'level3' => Type::Vec3, 'level4' => Type::Vec3,
        'edges' => Type::Vec4, 'softness' => Type::Vec4,
        'toward0' => Type::Vec3, 'toward1' => Type::Vec3, 'toward2' => Type::Vec3,
        'glow0' => Type::Vec3, 'glow1' => Type::Vec3, 'glow2' => Type::Vec3, 'glow3' => Type::Vec3, 'widths' => Type::Vec4,
        'band0' => Type::Vec3, 'band1' => Type::Vec3, 'band2' => Type::Vec3,
        'spread0' => Type::Vec3, 'spread1' => Type::Vec3, 'spread2' => Type::Vec3, 'spread3' => Type::Vec3,
        'sun' => Type::Vec3, 'sunColour' => Type::Vec3, 'sunStrength' => Type::Float, 'brightness' => Type::Float,
    ];

    private const LETTERS = 'xyzw';

    /** @var array<string, FieldFunction> */
    private static array $functions = [];

    /** @param array<string, Node> $fields by the names of FIELDS */
    public function __construct(public readonly Graph $graph, public readonly array $fields)
    {
    }

    /** One of the ready-made ones. */
    public static function of(Graph $g, SkyKind $kind): self
    {
        return new self($g, array_map(static fn (array $numbers): Node => \count($numbers) === 1 ? $g->float($numbers[0]) : $g->vec(...$numbers), self::numbers($kind)));
    }

    /** @return array<string, list<float>> by the names of FIELDS */
    public static function numbers(SkyKind $kind): array
    {
        $sun = $kind->sun();
        $all = $kind->numbers() + ['sun' => self::direction($sun['turn'], $sun['height']), 'sunColour' => $sun['colour'], 'sunStrength' => [$sun['strength']], 'brightness' => [1.0]];

        $numbers = [];
        foreach (array_keys(self::FIELDS) as $name) {
            $numbers[$name] = $all[$name];
        }

        return $numbers;
    }

    /**
     * Towards a place of the sky.
     *
     * @param float $turn   degrees to the right of -z
     * @param float $height degrees above the horizon
     *
     * @return array{float, float, float} unit
     */
    public static function direction(float $turn, float $height): array
    {
        [$t, $h] = [deg2rad($turn), deg2rad($height)];

        return Vec::unit([sin($t) * cos($h), sin($h), -cos($t) * cos($h)]);
    }

    /**
     * The light that comes from a direction.
     *
     * @param Node $from vec3, unit, towards it
     *
     * @return Node vec3, linear
     */
    public function radiance(Node $from): Node
    {
        return $this->called('skyRadiance', 'The light that comes from a direction of the sky.', ['from' => $from], static function (Graph $g, array $a, self $sky): Node {
            return $g->mul($g->add(
                $sky->levels($g->y($a['from']), null),
                ...array_map(static fn (int $i): Node => $sky->lobe($i, $a['from'], null), [0, 1, 2, 3]),
            ), $sky->fields['brightness']);
        });
    }

    /**
     * What a plane sees of it evenly: irradiance by π.
     *
     * @param Node $n vec3, unit
     *
     * @return Node vec3, linear
     */
    public function around(Node $n): Node
    {
        return $this->called('skyAround', 'What falls on a plane from all of the sky, by π.', ['n' => $n], static fn (Graph $g, array $a, self $sky): Node => $g->mul($sky->banded($a['n'], $g->float(2 / 3), $g->float(0.25)), $sky->fields['brightness']));
    }

    /**
     * The mean of what a GGX surface mirrors, weighted as it mirrors: the first half of a split sum (Karis 2013).
     *
     * Near mirrors the half vectors lie close to the normal, so that their spread in and across the plane of sight follows from it to first
     * order: it is long at grazing angles. For rough ones the three lowest bands of the sky are taken, each weakened as much as a lobe does.
     * The constants were fitted to integrals of these four skies by importance sampling (Heitz 2018); LightTest says how well.
     *
     * @param Node $n     vec3, unit
     * @param Node $view  vec3, unit, towards the viewer
     * @param Node $nv    float above 0, their cosine
     * @param Node $rough float, 0…1
     *
     * @return Node vec3, linear
     */
    public function mirrored(Node $n, Node $view, Node $nv, Node $rough): Node
    {
        return $this->called('skyMirrored', 'What a GGX surface mirrors of the sky, in the mean.', ['n' => $n, 'view' => $view, 'nv' => $nv, 'rough' => $rough], static function (Graph $g, array $a, self $sky): Node {
            ['n' => $n, 'view' => $view, 'nv' => $nv, 'rough' => $rough] = $a;
            $alpha = $g->mul($rough, $rough);
            $aside = $g->sub(1.0, $nv);
            $mirror = $g->sub($g->mul($n, $g->mul($nv, 2.0)), $view);
            $lean = static fn (Node $by): Node => $g->normalize($g->mix($mirror, $n, $g->min($by, 1.0)));

            // Near a mirror: the squared widths in the plane of sight and across it.
            $near = $lean($g->mul($alpha, $g->add(-0.453, $g->mul($alpha, -0.076), $g->mul($aside, 1.813))));
            $wide = $g->div($g->mul($alpha, $alpha, 4.0), $g->add(1.0, $g->mul($alpha, 3.464), $g->mul($alpha, $alpha, 18.07)));
            $along = $g->mul($wide, 1.721);
            $nv2 = $g->mul($nv, $nv);
            $across = $g->mul($wide, 2.029, $g->add($nv2, $g->mul($alpha, 0.69, $g->sub(1.0, $nv2))));
            $side = $g->cross($n, $view);
            $side = $g->div($side, $g->max($g->length($side), 1e-6));
            $up = $g->y($g->cross($near, $side));
            $tall = $g->add($g->mul($along, $g->mul($up, $up)), $g->mul($across, $g->mul($g->y($side), $g->y($side))));
            $spread = [$side, $g->mul($along, 1.569), $g->mul($across, 1.569)];
            $sharp = $g->add($sky->levels($g->y($near), $tall), ...array_map(static fn (int $i): Node => $sky->lobe($i, $near, $spread), [0, 1, 2, 3]));

            $far = $lean($g->add(0.279, $g->mul($alpha, $g->add(1.112, $g->mul($alpha, -0.494), $g->mul($aside, 0.055)))));
            $soft = $sky->banded(
                $far,
                $g->sub($g->div($g->add(1.0, $g->mul($alpha, 0.45)), $g->add(1.0, $g->mul($alpha, 1.356))), $g->mul($alpha, $aside, 0.055)),
                $g->div($g->add(1.0, $g->mul($alpha, 0.114)), $g->add(1.0, $g->mul($alpha, 5.217), $g->mul($alpha, $alpha, 0.814))),
            );

            return $g->mul($g->mix($sharp, $soft, $g->smoothstep(0.0, 0.81, $alpha)), $sky->fields['brightness']);
        });
    }

    /**
     * The levels as they are seen at a height, blurred by a squared width.
     *
     * @param Node $y float, the sine of the height
     */
    private function levels(Node $y, ?Node $blur): Node
    {
        $g = $this->graph;
        $sum = $this->fields['level0'];
        foreach (str_split(self::LETTERS) as $i => $letter) {
            $edge = $g->pick($this->fields['edges'], $letter);
            $soft = $g->pick($this->fields['softness'], $letter);
            $soft = $blur === null ? $soft : $g->add($soft, $blur);
            $s = static fn (Node $x): Node => $g->div($x, $g->sqrt($g->add($g->mul($x, $x), $soft)));
            [$low, $high] = [$s($g->sub(-1.0, $edge)), $s($g->sub(1.0, $edge))];
            $share = $g->div($g->sub($s($g->sub($y, $edge)), $low), $g->sub($high, $low));
            $sum = $g->add($sum, $g->mul($g->sub($this->fields['level' . ($i + 1)], $this->fields["level$i"]), $share));
        }

        return $sum;
    }

    /**
     * A lobe as it is seen in a direction.
     *
     * @param array{Node, Node, Node}|null $spread a unit direction, and the squared widths that it is blurred by across that direction and along it
     */
    private function lobe(int $i, Node $from, ?array $spread): Node
    {
        $g = $this->graph;
        $axis = $this->axis($i);
        $q = $g->pick($this->fields['widths'], self::LETTERS[$i]);
        $apart = $g->mul(2.0, $g->sub(1.0, $g->dot($axis, $from)));
        if ($spread === null) {
            $share = $g->div($q, $g->add($q, $apart));

            return $g->mul($this->fields["glow$i"], $g->mul($share, $share));
        }
        [$side, $along, $across] = $spread;
        $aside = $g->dot($axis, $side);
        $aside = $g->mul($aside, $aside);
        [$qa, $qb] = [$g->add($q, $along), $g->add($q, $across)];
        $mean = $g->sqrt($g->mul($qa, $qb));
        // As much light as before: over all directions such a lobe comes to 4π q / (q + 4).
        $kept = $g->div($g->mul($q, $g->add($mean, 4.0)), $g->mul($mean, $g->add($q, 4.0)));
        $by = $g->add(1.0, $g->div($g->max($g->sub($apart, $aside), 0.0), $qa), $g->div($aside, $qb));

        return $g->mul($this->fields["glow$i"], $g->div($kept, $g->mul($by, $by)));
    }

    /** The three lowest bands in a direction, the first as it is and the others by so much. */
    private function banded(Node $from, Node $first, Node $second): Node
    {
        $g = $this->graph;
        $legendre = static fn (Node $c): array => [$g->mul($first, $c), $g->mul($second, $g->sub($g->mul($c, $c, 1.5), 0.5))];
        [$p1, $p2] = $legendre($g->y($from));
        $sum = $g->add($this->fields['band0'], $g->mul($this->fields['band1'], $p1), $g->mul($this->fields['band2'], $p2));
        foreach ([0, 1, 2, 3] as $i) {
            [$p1, $p2] = $legendre($g->dot($this->axis($i), $from));
            $sum = $g->add($sum, $g->mul($this->fields["glow$i"], $g->dot($this->fields["spread$i"], $g->vec(1.0, $p1, $p2))));
        }

        return $g->max($sum, 0.0);
    }

    private function axis(int $i): Node
    {
        return $this->fields[$i === 3 ? 'sun' : "toward$i"];
    }

    /**
     * @param array<string, Node>                              $args
     * @param \Closure(Graph, array<string, Node>, self): Node $build
     */
    private function called(string $name, string $doc, array $args, \Closure $build): Node
    {
        self::$functions[$name] ??= new FieldFunction(
            $name,
            $doc,
            array_map(static fn (Node $arg): Type => $arg->type, $args) + self::FIELDS,
            static fn (Graph $g, array $a): Node => $build($g, array_combine(array_keys($args), \array_slice($a, 0, \count($args))), new self($g, array_combine(array_keys(self::FIELDS), \array_slice($a, \count($args))))),
        );

        return $this->graph->call(self::$functions[$name], ...array_values($args), ...array_values($this->fields));
    }
}
