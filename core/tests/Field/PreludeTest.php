<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Field;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;

/** The browser computes the same list of operations: both are held by the file of vectors beside this test. */
final class PreludeTest extends TestCase
{
    private const VECTORS = __DIR__ . '/prelude.json';

    public function testWhatDependsOnUniformsAloneCanBeHeld(): void
    {
        $g = new Graph();
        $rate = $g->uniform('rate');
        self::assertTrue(Prelude::holds($g->sin($g->mul($rate, 3.0))));
        self::assertFalse(Prelude::holds($g->mul($rate, $g->input('objectValue', Type::Float))));
        self::assertFalse(Prelude::holds($g->vec($rate, $rate)), 'a uniform is one number');
    }

    public function testEachOperationIsComputedInDoublePrecision(): void
    {
        $g = new Graph();
        $prelude = new Prelude(['turn' => $g->fract($g->mul($g->uniform('rate'), $g->toFloat($g->uniform('clock', Type::Uint))))]);
        self::assertTrue($prelude->reads('clock'));
        // 1/7 of 2654208000 ticks: what single precision would round to whole numbers.
        self::assertEqualsWithDelta(fmod(2654208000 / 7, 1.0), $prelude->values(['rate' => 1 / 7, 'clock' => 2654208000])['turn'], 1e-7);
        $this->expectExceptionMessage('There is no number for the uniform clock.');
        $prelude->values(['rate' => 1.0]);
    }

    public function testTheVectorsAreWhatIsComputed(): void
    {
        $made = json_encode(self::vectors(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION | \JSON_UNESCAPED_SLASHES) . "\n";
        if (getenv('RILTA_WRITE_VECTORS') !== false) {
            file_put_contents(self::VECTORS, $made);
        }
        // Sines and powers may differ by a rounding from one library to the next.
        $round = static fn (string $json): string => (string) preg_replace_callback('/-?\d+\.\d{12,}/', static fn (array $m): string => \sprintf('%.12e', (float) $m[0]), $json);
        self::assertSame($round((string) file_get_contents(self::VECTORS)), $round($made), 'run the test with RILTA_WRITE_VECTORS=1 after a change that is meant');
    }

    /** @return list<array<string, mixed>> */
    private static function vectors(): array
    {
        $g = new Graph();
        [$a, $b, $n] = [$g->uniform('a'), $g->uniform('b'), $g->uniform('n', Type::Uint)];
        $whole = $g->toUint($a);
        $pair = $g->vec($a, $b);
        /** @var array<string, Node> $fields */
        $fields = [
            'sum' => $g->add($a, $b), 'difference' => $g->sub($a, $b), 'product' => $g->mul($a, $b), 'quotient' => $g->div($a, $b),
            'least' => $g->min($a, $b), 'most' => $g->max($a, $b), 'power' => $g->pow($g->abs($a), $b), 'angle' => $g->atan2($a, $b),
            'minus' => $g->neg($a), 'down' => $g->floor($a), 'part' => $g->fract($a), 'root' => $g->sqrt($g->abs($a)), 'two' => $g->exp2($b), 'log' => $g->log2($g->add($g->abs($a), 1.0)),
            'sine' => $g->sin($a), 'cosine' => $g->cos($b), 'mixed' => $g->mix($a, $b, 0.3), 'held' => $g->clamp($a, -0.5, 0.75), 'ramp' => $g->smoothstep(-1.0, 2.0, $a),
            'chosen' => $g->select($g->and($g->less($a, $b), $g->not($g->lessEqual($b, 0.0))), $a, $b), 'either' => $g->select($g->or($g->less($a, 0.0), $g->less($b, 0.0)), 1.0, 2.0),
            'whole sum' => $g->add($n, $whole), 'whole difference' => $g->sub($whole, $n), 'whole product' => $g->mul($n, $g->uint(2891336453)), 'bits' => $g->xor($n, $g->shiftRight($n, 7)), 'low' => $g->bitAnd($n, $g->uint(1023)),
            'of a vector' => $g->pick($g->mul($pair, $g->vec(2.0, 3.0)), 'y'), 'long' => $g->length($pair), 'dotted' => $g->dot($pair, $g->vec(0.25, $b)), 'back' => $g->toFloat($n),
        ];
        $vectors = [];
        foreach ([[0.3, 0.7, 5], [-2.625, 1.5, 4294967295], [17.25, -3.0, 123456789]] as [$x, $y, $z]) {
            $vectors[] = self::vector("operations at $x, $y, $z", new Prelude($fields), ['a' => $x, 'b' => $y, 'n' => $z]);
        }
        $found = 0;
        for ($seed = 1; $found < 24; ++$seed) {
            $lowered = Lowering::lower(Documents::reader()->read((new RandomDocuments($seed))->document()), TestMaps::whole());
            if ($lowered->prelude->fields !== []) {
                ++$found;
                $vectors[] = self::vector("random material $seed", $lowered->prelude, array_diff_key($lowered->uniforms(86399.5 * $found), $lowered->prelude->fields));
            }
        }

        return $vectors;
    }

    /**
     * @param array<string, float|int> $uniforms
     *
     * @return array<string, mixed>
     */
    private static function vector(string $name, Prelude $prelude, array $uniforms): array
    {
        $program = $prelude->program();

        return ['name' => $name, 'prelude' => $program, 'uniforms' => (object) $uniforms, 'values' => $prelude->values($uniforms)];
    }
}
