<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Field;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\IllTyped;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\Type;

final class GraphTest extends TestCase
{
    public function testEqualFieldsAreOneNode(): void
    {
        $g = new Graph();
        $a = $g->input('a', Type::Float);
        self::assertSame($g->sin($g->add($a, 1.0)), $g->sin($g->add($g->input('a', Type::Float), $g->float(1))));
        self::assertNotSame($g->add($a, 1.0), $g->add($a, 1.0000001));
        self::assertNotSame($g->uniform('a'), $a, 'an input and a uniform of one name differ');
    }

    public function testNeutralElementsVanish(): void
    {
        $g = new Graph();
        $v = $g->input('v', Type::Vec3);
        self::assertSame($v, $g->add($v, 0.0));
        self::assertSame($v, $g->sub($v, 0.0));
        self::assertSame(Op::Sub, $g->sub(0.0, $v)->op, 'nothing less something is not nothing');
        self::assertSame(Op::Div, $g->div(1.0, $v)->op);
        self::assertSame($v, $g->mul(1.0, $v));
        self::assertSame($v, $g->div($v, 1.0));
        self::assertSame($v, $g->neg($g->neg($v)));
        self::assertSame($v, $g->mix($v, $g->vec(1, 2, 3), 0.0));
        self::assertSame($v, $g->select($g->bool(true), $v, $g->vec(0, 0, 0)));
        self::assertSame($v, $g->vec($g->x($v), $g->y($v), $g->z($v)), 'a vector taken apart and put together');
        $zero = $g->mul($v, 0.0);
        self::assertTrue($zero->is(0));
        self::assertSame(Type::Vec3, $zero->type, 'nothing keeps the width of what it was');
    }

    public function testNeutralElementsDoNotNarrow(): void
    {
        $g = new Graph();
        $sum = $g->add($g->float(0), $g->vec(0, 0), $g->input('f', Type::Float));
        self::assertSame(Type::Vec2, $sum->type);
    }

    /** @return iterable<string, array{\Closure(Graph): Node, list<float>}> */
    public static function foldings(): iterable
    {
        yield 'arithmetic' => [static fn (Graph $g): Node => $g->div($g->sub($g->mul($g->float(3), 4), 2), 5), [2.0]];
        yield 'a scalar meets a vector' => [static fn (Graph $g): Node => $g->mul($g->vec(1, 2, 3), 0.5), [0.5, 1.0, 1.5]];
        yield 'floor of a negative number' => [static fn (Graph $g): Node => $g->floor($g->vec(-0.5, 2.5)), [-1.0, 2.0]];
        yield 'fract of a negative number' => [static fn (Graph $g): Node => $g->fract($g->float(-0.25)), [0.75]];
        yield 'smoothstep' => [static fn (Graph $g): Node => $g->smoothstep(0.0, 2.0, $g->float(0.5)), [0.15625]];
        yield 'swizzle' => [static fn (Graph $g): Node => $g->pick($g->vec(1, 2, 3, 4), 'wzx'), [4.0, 3.0, 1.0]];
        yield 'minus zero is zero' => [static fn (Graph $g): Node => $g->mul($g->neg($g->float(0)), 3.0), [0.0]];
        yield 'clamp' => [static fn (Graph $g): Node => $g->clamp($g->vec(-1, 0.5, 7)), [0.0, 0.5, 1.0]];
    }

    /**
     * @param \Closure(Graph): Node $build
     * @param list<float>           $expected
     */
    #[DataProvider('foldings')]
    public function testConstantsAreFolded(\Closure $build, array $expected): void
    {
        $node = $build(new Graph());
        self::assertSame(Op::Constant, $node->op);
        self::assertEqualsWithDelta($expected, $node->constants(), 1e-15);
    }

    public function testDivisionByZeroIsLeftToTheTarget(): void
    {
        $g = new Graph();
        self::assertSame(Op::Div, $g->div($g->float(1), 0.0)->op);
    }

    public function testWidthsThatDoNotFitAreRefusedByName(): void
    {
        $g = new Graph();
        $this->expectException(IllTyped::class);
        $this->expectExceptionMessageMatches('/float2.*float3/');
        $g->add($g->vec(1, 2), $g->vec(1, 2, 3));
    }

    public function testACallWithAWrongArgumentIsRefused(): void
    {
        $g = new Graph();
        $this->expectException(IllTyped::class);
        Noise::gradient($g, $g->vec(1, 2, 3), $g->vec(4, 4), $g->uint(1));
    }

    public function testASharedSubgraphIsStoredOnce(): void
    {
        $g = new Graph();
        $field = $g->input('p', Type::Float);
        for ($i = 0; $i < 40; ++$i) {
            $field = $g->add($g->sin($field), $g->cos($field));
        }
        // Written out as a tree this would be 2^40 terms.
        self::assertLessThan(150, $field->id);
        $other = new Graph();
        $copy = (new Rewriter($g, $other, ['p' => $other->float(0.5)], true))->rewrite($field);
        self::assertTrue($copy->isConstant());
        $x = 0.5;
        for ($i = 0; $i < 40; ++$i) {
            $x = sin($x) + cos($x);
        }
        self::assertEqualsWithDelta($x, $copy->constants()[0], 1e-12);
    }

    public function testCrossAndDotKeepTheirSpelling(): void
    {
        $g = new Graph();
        $v = $g->input('v', Type::Vec3);
        self::assertSame($g->y($v), $g->dot($v, $g->vec(0, 1, 0)), 'a product with an axis is a component');
        self::assertTrue($g->dot($v, $g->vec(0, 0, 0))->is(0));
    }
}
