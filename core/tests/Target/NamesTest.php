<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Target;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Target\C\CDialect;
use Rilta\Core\Target\Dialect;
use Rilta\Core\Target\Glsl\GlslDialect;
use Rilta\Core\Target\Hlsl\HlslDialect;
use Rilta\Core\Target\Shading\Printer;
use Rilta\Core\Target\Targets;
use Rilta\Core\Target\Wgsl\WgslDialect;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\TestMaps;

/** Whatever people call things, code is valid. */
final class NamesTest extends TestCase
{
    /** @return iterable<string, array{Dialect}> */
    public static function dialects(): iterable
    {
        yield 'GLSL' => [new GlslDialect()];
        yield 'HLSL' => [new HlslDialect()];
        yield 'WGSL' => [new WgslDialect()];
        yield 'C' => [new CDialect()];
    }

    #[DataProvider('dialects')]
    public function testNoReservedWordIsAName(Dialect $dialect): void
    {
        $words = $dialect->reserved();
        self::assertGreaterThan(60, \count($words));
        foreach ($words as $word) {
            $name = Identifier::of($word, $words);
            self::assertNotContains($name, $words, $word);
            self::assertMatchesRegularExpression('/^[A-Za-z][A-Za-z0-9]*(_[A-Za-z0-9]+)*$/D', $name, $word);
        }
    }

    public function testNamesBeginWithALetterAndHaveNoTwoUnderscores(): void
    {
        foreach (['2nd' => 'the_2nd', 'gl-main' => 'the_gl_main', 'gl' => 'the_gl', 'a--b' => 'a_b', '-' => 'the', 'glow' => 'glow', '_x_' => 'x', 'smooth' => 'smooth'] as $text => $name) {
            self::assertSame($name, Identifier::of((string) $text), (string) $text);
        }
    }

    public function testAVariableNeverHasTheNameOfAWordOfTheLanguage(): void
    {
        $words = array_values(array_unique((new GlslDialect())->reserved()));
        $graph = new Graph();
        $outputs = [];
        foreach ($words as $i => $word) {
            $outputs["o$i"] = $graph->named($word, $graph->add($graph->input('position', Type::Float), (float) $i + 1));
        }
        [$lines] = (new Printer(new GlslDialect()))->body($graph, $outputs);
        preg_match_all('/^\s*float (\w+) =/m', $lines, $found);
        self::assertCount(\count($words), array_unique($found[1]));
        self::assertSame([], array_intersect($found[1], $words));
    }

    public function testAVariableNeverHidesAUniformThatComesLater(): void
    {
        $graph = new Graph();
        $sum = $graph->named('size', $graph->add($graph->input('position', Type::Float), 1.0));
        [$lines, $results] = (new Printer(new GlslDialect()))->body($graph, ['it' => $graph->mul($sum, $sum, $graph->uniform('size'))]);
        self::assertStringContainsString('float size_2 = ', $lines);
        self::assertStringContainsString('* size', $results['it']);
    }

    public function testEveryTargetPrintsEveryDocumentOfReservedIds(): void
    {
        $reserved = array_map(static fn (Dialect $one): array => $one->reserved(), ['glsl' => new GlslDialect(), 'glsl450' => new GlslDialect(), 'hlsl' => new HlslDialect(), 'wgsl' => new WgslDialect(), 'c' => new CDialect()]);
        $words = array_unique(array_filter(array_merge(...array_values($reserved)), static fn (string $word): bool => preg_match('/^[a-z][a-z0-9]*$/D', $word) === 1));
        foreach (array_chunk($words, 4) as $some) {
            $lanes = array_map(static fn (string $id): array => Documents::lane($id, Documents::step('origin'), Documents::step('size', ['u' => 0.8])), $some);
            $layers = array_map(static fn (string $id): array => Documents::layer($id, $id, 'set', ['opacity' => 50, 'mask' => [['kind' => 'noise', 'values' => []]]]), $some);
            $lowered = Lowering::lower(Documents::reader()->read(Documents::whole($lanes, $layers)), TestMaps::whole());
            foreach (Targets::all() as $name => $target) {
                $program = $target->program($lowered);
                foreach (array_intersect($some, $reserved[$name]) as $word) {
                    self::assertDoesNotMatchRegularExpression("/^\\s*(?:uniform |const )?(?:float|double|vec[234]|uint|uint32_t|bool|float[234]|[uif]32|vec[234][fui]) $word\\b\\s*[=;]|^\\s*(?:let )?$word: /m", $program, "$name, $word");
                }
            }
        }
    }

    public function testLayersWhoseIdsDifferInPunctuationAreApart(): void
    {
        $layers = array_map(static fn (string $id): array => Documents::layer($id, 'main', '', ['opacity' => 50]), ['wet-sand', 'wet.sand', 'wet_sand']);
        $program = Targets::all()['c']->program(Lowering::lower(Documents::reader()->read(Documents::whole([Documents::lane('main', Documents::step('origin'))], $layers)), TestMaps::whole()));
        self::assertMatchesRegularExpression('/double wet_sand;\s+double wet_sandb;\s+double wet_sandbb;\s+\} rilta_shares;/', $program);
    }
}
