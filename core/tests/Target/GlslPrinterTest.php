<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Target;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Lowering\Picture;
use Rilta\Core\Target\Glsl\GlslDialect;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Target\Shading\Printer;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;

/** What several pictures share is printed once, and nothing is used before it is there. */
final class GlslPrinterTest extends TestCase
{
    public function testWhatTwoFieldsNeedStandsBeforeBothAndTheRestWithin(): void
    {
        $g = new Graph();
        $x = $g->input('x', Type::Float);
        $both = $g->named('both', $g->sin($x));
        $one = $g->named('one', $g->mul($both, $both, $x));
        $other = $g->named('other', $g->cos($both));
        $code = (new Printer(new GlslDialect()))->branches($g, 'which', ['a' => $g->vec($one, $one, 0.0), 'b' => $g->vec($other, $other, 1.0)], ['a' => 'first', 'b' => 'second']);
        self::assertSame(1, substr_count($code, 'float both = '));
        self::assertLessThan(strpos($code, 'if (which == 0)'), strpos($code, 'float both = '));
        self::assertMatchesRegularExpression('~if \(which == 0\) \{ // first\n        float one = [^\n]+\n        return vec3\(one, one, 0\.0\);\n    \}~', $code);
        self::assertMatchesRegularExpression('~if \(which == 1\) \{ // second\n        float other = ~', $code);
    }

    public function testEveryPictureHasItsBranchAndEveryNameStandsBeforeItIsUsed(): void
    {
        $random = new RandomDocuments(41);
        $maps = TestMaps::whole();
        for ($i = 0; $i < 25; ++$i) {
            $lowered = Lowering::lower(Documents::reader()->read($random->document()), $maps);
            $shader = Shader::of($lowered);
            foreach (array_keys(Picture::all($lowered)) as $view) {
                self::assertSame(1, substr_count($shader->pictures, "if (which == $view) {"));
            }
            foreach ([$shader->pictures, $shader->material] as $code) {
                self::assertSame([], self::undeclared($code));
            }
        }
    }

    public function testPicturesGrowWithTheLaneAndNotWithItsSquare(): void
    {
        $length = static fn (int $turns): int => \strlen(Shader::of(Documents::lower([Documents::step('origin'), ...array_fill(0, $turns, Documents::step('turn', ['angle' => 3.0]))]))->pictures);
        $few = $length(8) - $length(4);
        $many = $length(24) - $length(20);
        self::assertLessThan(1.3 * $few, $many, 'four more steps cost the same wherever they are');
    }

    /** @return list<string> names of variables that are used before they are declared, or twice declared */
    private static function undeclared(string $code): array
    {
        $known = [];
        $wrong = [];
        foreach (explode("\n", $code) as $line) {
            preg_match('~^\s+(?:float|vec[234]|uint|uvec[23]|bool) (\w+) = ~', $line, $declared);
            preg_match_all('~\bv\d+\b~', (string) preg_replace('~//.*$|^\s+\w+ \w+ = ~', '', $line), $used);
            foreach ($used[0] as $name) {
                if (!isset($known[$name])) {
                    $wrong[] = "$name in $line";
                }
            }
            if (isset($declared[1])) {
                if (isset($known[$declared[1]])) {
                    $wrong[] = "$declared[1] twice";
                }
                $known[$declared[1]] = true;
            }
        }

        return $wrong;
    }
}
