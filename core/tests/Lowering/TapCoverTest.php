<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\TapCover;
use Rilta\Core\Tests\Kernels;

final class TapCoverTest extends TestCase
{
    private const HERE = ['one' => [0.5], 'other' => [0.25], 'near' => [0.7], 'far' => [-0.3]];

    /**
     * @param list<string> $around  of the one place and of the other: "nothing", "colour" or "more of it"
     * @param list<?float> $covers  how much of the layer, and of the maps, is here
     * @param ?float       $outside red of the colour that lies around
     */
    #[DataProvider('places')]
    public function testOnePlaceLiesOnAnother(array $around, array $covers, ?float $outside): void
    {
        $g = new Graph();
        $cover = new TapCover();
        self::assertSame(1.0, self::value($g, $cover->share($g)));
        foreach ($around as $i => $what) {
            $cover = $cover->placed(
                $g,
                $g->input(['near', 'far'][$i], Type::Float),
                $what === 'more of it' ? null : $g->input(['one', 'other'][$i], Type::Float),
                $what === 'colour' ? $g->vec(0.1 + $i, 0.0, 0.0) : null,
            );
        }
        self::assertSame($covers, [$cover->inside === null ? null : self::value($g, $cover->inside), $cover->within === null ? null : self::value($g, $cover->within)]);
        self::assertSame($outside, $cover->outside === null ? null : self::value($g, $g->x($cover->outside)));
        self::assertSame(($covers[0] ?? 1.0) * ($covers[1] ?? 1.0), self::value($g, $cover->share($g)));
        self::assertNotNull($cover->region);
        self::assertSame(\count($around) === 1 ? 0.7 : -0.3, self::value($g, $cover->region));
    }

    /** @return iterable<string, array{list<string>, list<?float>, ?float}> */
    public static function places(): iterable
    {
        yield 'nothing around' => [['nothing'], [0.5, null], null];
        yield 'a colour around' => [['colour'], [null, 0.5], 0.1];
        yield 'more of it around' => [['more of it'], [null, null], null];
        yield 'nothing around both' => [['nothing', 'nothing'], [0.125, null], null];
        yield 'a colour around both' => [['colour', 'colour'], [null, 0.125], 1.1];
        yield 'nothing, and on it a colour' => [['nothing', 'colour'], [0.5, 0.25], 1.1];
        yield 'a colour, and on it nothing' => [['colour', 'nothing'], [0.25, 0.5], 0.1];
        yield 'nothing, and on it more of it' => [['nothing', 'more of it'], [0.5, null], null];
        yield 'a colour, and on it more of it' => [['colour', 'more of it'], [null, 0.5], 0.1];
    }

    private static function value(Graph $g, Node $node): float
    {
        return (float) Kernels::value($g, $node, self::HERE, [])[0];
    }
}
