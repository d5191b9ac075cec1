<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\Absent;
use Rilta\Core\Format\Difference;
use Rilta\Core\Format\Merge;
use Rilta\Core\Tests\RandomDocuments;

final class MergeTest extends TestCase
{
    /** @return iterable<string, array{string, string, string, string, list<string>}> what both started from, the first, the second, what comes out, where both changed the same */
    public static function merges(): iterable
    {
        yield 'each changed something else' => ['{"a":1,"b":2}', '{"a":3,"b":2}', '{"a":1,"b":4}', '{"a":3,"b":4}', []];
        yield 'both the same' => ['{"a":1}', '{"a":2}', '{"a":2.0}', '{"a":2}', []];
        yield 'both, each its own way' => ['{"a":{"b":1}}', '{"a":{"b":2}}', '{"a":{"b":3}}', '{"a":{"b":2}}', ['/a/b: 2, 3']];
        yield 'one wrote it otherwise' => ['{"a":1,"b":2}', '{"b":2,"a":1.0}', '{"a":1,"b":3}', '{"a":1,"b":3}', []];
        yield 'taken away, and changed' => ['{"a":{"b":1},"c":1}', '{"c":1}', '{"a":{"b":2},"c":1}', '{"c":1}', ['/a: nothing, {"b":2}']];
        yield 'null is something' => ['{"a":1}', '{"a":null}', '{}', '{"a":null}', ['/a: null, nothing']];
        yield 'a list of what has ids' => [
            '[{"id":"a","n":1},{"id":"b","n":1}]', '[{"id":"a","n":2},{"id":"b","n":1},{"id":"c","n":1}]', '[{"id":"x","n":1},{"id":"a","n":1},{"id":"b","n":3}]',
            '[{"id":"x","n":1},{"id":"a","n":2},{"id":"b","n":3},{"id":"c","n":1}]', [],
        ];
        yield 'one moved, one changed' => [
            '[{"id":"a","n":1},{"id":"b","n":1},{"id":"c","n":1}]', '[{"id":"c","n":1},{"id":"a","n":1},{"id":"b","n":1}]', '[{"id":"a","n":5},{"id":"c","n":1}]',
            '[{"id":"c","n":1},{"id":"a","n":5}]', [],
        ];
        yield 'the other moved' => ['["a","b","c"]', '["a","b","c","d"]', '["c","b","a"]', '["c","d","b","a"]', []];
        yield 'both moved' => ['["a","b","c"]', '["c","a","b"]', '["b","a","c"]', '["c","a","b"]', ['/ (the order): ["c","a","b"], ["b","a","c"]']];
        yield 'both put something in at one place' => ['["a"]', '["a","b"]', '["a","c"]', '["a","c","b"]', []];
        yield 'steps, place by place' => [
            '[{"step":"size","values":{"u":1}},{"step":"size","values":{"u":2}}]', '[{"step":"size","values":{"u":5}},{"step":"size","values":{"u":2}}]', '[{"step":"size","values":{"u":1}},{"step":"size","values":{"u":6}}]',
            '[{"step":"size","values":{"u":5}},{"step":"size","values":{"u":6}}]', [],
        ];
        yield 'a step that became another one' => [
            '[{"step":"size","values":{"u":1}}]', '[{"step":"warp","values":{"u":1}}]', '[{"step":"size","values":{"u":2}}]',
            '[{"step":"warp","values":{"u":1}}]', ['/size: nothing, {"step":"size","values":{"u":2}}'],
        ];
        yield 'a step more, and another number' => [
            '[{"step":"origin","values":{}},{"step":"size","values":{"u":1}}]', '[{"step":"origin","values":{}},{"step":"size","values":{"u":1}},{"step":"pan","values":{"u":3}}]', '[{"step":"origin","values":{}},{"step":"size","values":{"u":2}}]',
            '[{"step":"origin","values":{}},{"step":"size","values":{"u":2}},{"step":"pan","values":{"u":3}}]', [],
        ];
        yield 'of one kind twice, one value' => [
            '[{"step":"turn","values":{"u":1}},{"step":"turn","values":{"u":2}}]', '[{"step":"turn","values":{"u":2}}]', '[{"step":"turn","values":{"u":1}},{"step":"turn","values":{"u":6}}]',
            '[{"step":"turn","values":{"u":2}}]', ['/: [{"step":"turn","values":{"u":2}}], [{"step":"turn","values":{"u":1}},{"step":"turn","values":{…'],
        ];
        yield 'a colour is one value' => ['{"tint":[1,1,1]}', '{"tint":[1,0,1]}', '{"tint":[1,1,0]}', '{"tint":[1,0,1]}', ['/tint: [1,0,1], [1,1,0]']];
        yield 'two the same id' => ['[{"id":"a"}]', '[{"id":"a"},{"id":"a"}]', '[{"id":"b"}]', '[{"id":"a"},{"id":"a"}]', ['/: [{"id":"a"},{"id":"a"}], [{"id":"b"}]']];
        yield 'an object in place of a list' => ['{"a":[]}', '{"a":{}}', '{"a":[1]}', '{"a":{}}', ['/a: {}, [1]']];
        yield 'keys that are numbers' => ['{"7":1,"8":1}', '{"7":2,"8":1}', '{"7":1,"8":2}', '{"7":2,"8":2}', []];
    }

    /** @param list<string> $conflicts */
    #[DataProvider('merges')]
    public function testWhatTwoSidesChangedComesTogether(string $base, string $first, string $second, string $merged, array $conflicts): void
    {
        $merge = new Merge(json_decode($base), json_decode($first), json_decode($second));
        self::assertSame($merged, json_encode($merge->merged));
        self::assertSame($conflicts, array_map(static fn (Difference $one): string => ($one->path === '' ? '/' : $one->path) . ': ' . Difference::short($one->from) . ', ' . Difference::short($one->to), array_map(
            static fn (Difference $one): Difference => str_starts_with($one->path, ' (') ? new Difference('/' . $one->path, $one->from, $one->to) : $one,
            $merge->conflicts,
        )));
    }

    private const VECTORS = __DIR__ . '/merge.json';

    /** Browsers bring together what others have stored and what is being worked on by the same rules: web/src/state/merge.test.ts. */
    public function testBrowsersHaveVectorsOfIt(): void
    {
        $vectors = [];
        foreach (self::merges() as $name => [$base, $first, $second]) {
            $vectors[] = ['name' => $name] + self::vector(json_decode($base), json_decode($first), json_decode($second));
        }
        $random = new RandomDocuments(78);
        mt_srand(4712);
        for ($i = 0; $i < 10; ++$i) {
            $materials = ['one' => $random->layered()];
            $vectors[] = ['name' => "random $i"] + self::vector(self::json($materials), self::worked($materials, $i), self::worked($materials, $i));
        }
        $made = json_encode($vectors, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE) . "\n";
        if (getenv('RILTA_WRITE_VECTORS') !== false) {
            file_put_contents(self::VECTORS, $made);
        }
        self::assertStringEqualsFile(self::VECTORS, $made, 'run the test with RILTA_WRITE_VECTORS=1 after a change that is meant');
    }

    /** @return array{base: mixed, first: mixed, second: mixed, merged: mixed} where both changed the same, the second counts */
    private static function vector(mixed $base, mixed $first, mixed $second): array
    {
        return ['base' => $base, 'first' => $first, 'second' => $second, 'merged' => (new Merge($base, $first, $second, 2))->merged];
    }

    public function testOneSideCanBeTaken(): void
    {
        [$base, $first, $second] = array_map(json_decode(...), ['{"a":1,"b":1,"c":1}', '{"a":2,"b":2,"c":1}', '{"a":3,"b":1,"c":3}']);
        self::assertSame('{"a":2,"b":2,"c":3}', json_encode((new Merge($base, $first, $second, 1))->merged));
        $second = new Merge($base, $first, $second, 2);
        self::assertSame('{"a":3,"b":2,"c":3}', json_encode($second->merged));
        self::assertSame([], $second->conflicts);
    }

    /** Whatever two people do to a document: what one did is there, or it is told that both did something there. */
    public function testNothingIsLostInTwoHundredMerges(): void
    {
        $random = new RandomDocuments(77);
        mt_srand(4711);
        $clean = $told = 0;
        for ($i = 0; $i < 200; ++$i) {
            $materials = ['one' => $random->layered(), 'two' => $random->layered()];
            [$base, $first, $second] = [self::json($materials), self::worked($materials, $i), self::worked($materials, $i)];
            $merge = new Merge($base, $first, $second);
            $there = array_map(static fn (Difference $one): string => $one->path, $merge->conflicts);
            foreach ([$first, $second] as $side) {
                self::assertTrue(Merge::same((new Merge($base, $side, $base))->merged, $side), "$i: nobody else did anything");
                self::assertTrue(Merge::same((new Merge($base, $base, $side))->merged, $side), "$i: only the other did something");
                foreach (Merge::differences($base, $side) as $change) {
                    $held = array_filter($there, static fn (string $path): bool => self::within($change->path, $path)) !== [];
                    $found = self::at($merge->merged, str_replace(' (the order)', '', $change->path));
                    self::assertTrue($held || Merge::same($found, $change->to) || self::brought($merge->merged, $change), "$i: $change->path was " . Difference::short($change->to) . ' and is ' . Difference::short($found) . ', told: ' . implode(', ', $there));
                }
            }
            $taken = new Merge($base, $first, $second, 2);
            foreach ($merge->conflicts as $one) {
                self::assertFalse(Merge::same($one->from, $one->to), "$i: $one->path is no conflict");
            }
            self::assertSame([], $taken->conflicts);
            $there === [] ? ++$clean : ++$told;
        }
        self::assertGreaterThan(40, $clean);
        self::assertGreaterThan(40, $told);
    }

    /** Whether what was put into, taken out of or moved within a list is so, beside what the other side did to it. */
    private static function brought(mixed $merged, Difference $change): bool
    {
        $found = self::at($merged, str_replace(' (the order)', '', $change->path));
        if (!\is_array($change->to) || !\is_array($found)) {
            return false;
        }
        $word = static fn (mixed $one): string => \is_string($one) ? $one : '';
        $words = array_map($word, $change->to);
        $ids = array_map(static fn (mixed $one): string => $word($one instanceof \stdClass ? $one->id ?? $one->name ?? self::kind($one) : $one), $found);

        return array_values(array_intersect($ids, $words)) === array_values(array_intersect($words, $ids));
    }

    /** The words in it. */
    private static function kind(\stdClass $one): string
    {
        $words = array_filter((array) $one, is_string(...));
        ksort($words);

        return implode(' ', $words);
    }

    private static function within(string $path, string $told): bool
    {
        [$path, $told] = str_replace(' (the order)', '', [$path, $told]);

        return $path === $told || str_starts_with($path, "$told/") || str_starts_with($told, "$path/");
    }

    private static function at(mixed $value, string $path): mixed
    {
        foreach (\array_slice(explode('/', $path), 1) as $key) {
            if ($value instanceof \stdClass) {
                $value = property_exists($value, $key) ? $value->{$key} : Absent::Here;
            } elseif (\is_array($value)) {
                $named = array_values(array_filter($value, static fn (mixed $one): bool => $one === $key || ($one instanceof \stdClass && ($one->id ?? $one->name ?? self::kind($one)) === $key)));
                $value = $named[0] ?? $value[$key] ?? Absent::Here;
            }
        }

        return $value;
    }

    /**
     * What somebody might do in an afternoon.
     *
     * @param array<string, array<string, mixed>> $materials
     */
    private static function worked(array $materials, int $seed): mixed
    {
        for ($n = mt_rand(1, 4); $n > 0; --$n) {
            $key = mt_rand(0, 1) === 0 ? 'one' : 'two';
            if (!isset($materials[$key])) {
                continue;
            }
            /** @var non-empty-list<array<string, mixed>> $layers */
            $layers = $materials[$key]['layers'];
            switch (mt_rand(0, 6)) {
                case 0:
                    $materials[$key]['name'] = "Named $seed " . mt_rand(0, 9);
                    break;
                case 1:
                    $layers[array_rand($layers)]['opacity'] = mt_rand(0, 100) / 100;
                    break;
                case 2:
                    array_splice($layers, mt_rand(0, \count($layers)), 0, [['id' => 'new-' . mt_rand(0, 3), 'name' => 'New', 'lane' => 'main', 'set' => '']]);
                    // An id of its own.
                    $layers = array_values(array_column($layers, null, 'id'));
                    break;
                case 3:
                    if (\count($layers) > 1) {
                        array_splice($layers, mt_rand(0, \count($layers) - 1), 1);
                    }
                    break;
                case 4:
                    shuffle($layers);
                    break;
                case 5:
                    /** @var non-empty-list<array{steps: non-empty-list<array<string, mixed>>}> $lanes */
                    $lanes = $materials[$key]['lanes'];
                    $step = array_rand($lanes[0]['steps']);
                    $lanes[0]['steps'][$step]['on'] = !($lanes[0]['steps'][$step]['on'] ?? true);
                    $materials[$key]['lanes'] = $lanes;
                    break;
                default:
                    unset($materials['two']);
            }
            if (isset($materials[$key])) {
                $materials[$key]['layers'] = $layers;
            }
        }

        return self::json($materials);
    }

    /** @param array<string, mixed> $materials */
    private static function json(array $materials): mixed
    {
        return json_decode(json_encode(['materials' => $materials], \JSON_THROW_ON_ERROR));
    }
}
