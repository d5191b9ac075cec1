<?php

declare(strict_types=1);

namespace Rilta\Core\Target\C;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Engine;
use Rilta\Core\Target\Pass\Scalariser;
use Rilta\Core\Target\Php\Binding;

/**
 * Computes by C, compiled on this machine and called through PHP's FFI. A program is a library named by the hash of its code, so that equal
 * graphs are compiled once; nothing is ever compiled but what the printer of C has printed.
 */
final readonly class CEngine implements Engine
{
    /** As fast as this processor can, but without fused operations: they would round otherwise than the same in PHP. */
    private const FLAGS = ['-std=c99', '-O2', '-march=native', '-ffp-contract=off', '-fno-math-errno', '-fPIC', '-shared'];

    /** Tells what the processor can: a library that was compiled on another is none here. */
    private const PROCESSOR = '/proc/cpuinfo';

    /** Seconds that a compiler may take. */
    private const PATIENCE = 120;

    public const ENTRY = 'void rilta_run(const double *numbers, const uint32_t **texels, const double **inputs, void **out, int x0, int y0, int x1, int y1)';

    /** @param string $compiler a C compiler, by its name or its path */
    public function __construct(private string $folder, private string $compiler = 'cc')
    {
    }

    public function name(): string
    {
        return 'c';
    }

    /** Why it cannot compute here, or null if it can: a small program was compiled and called. */
    public function obstacle(): ?string
    {
        if (!\extension_loaded('FFI') || !class_exists(\FFI::class)) {
            return 'PHP has no FFI extension here';
        }
        try {
            $g = new Graph();
            $found = $this->compile($g, ['half' => $g->mul($g->uniform('one'), 0.5)], [])->run(['one' => 1.0], [], [], 0, 0, 1, 1);

            return $found['half'][0] === [0.5] ? null : 'a small program in C came to something else than it should';
        } catch (\RuntimeException|\FFI\Exception $e) {
            return lcfirst(rtrim($e->getMessage(), '.'));
        }
    }

    public function compile(Graph $graph, array $outputs, array $bindings): CProgram
    {
        $scalariser = new Scalariser($graph);
        $scalars = [];
        $widths = [];
        $whole = [];
        foreach ($outputs as $name => $field) {
            $components = $scalariser->scalarise($field);
            $widths[$name] = \count($components);
            foreach ($components as $component) {
                $scalars[] = $component;
                $whole[] = $component->type === Type::Uint;
            }
        }
        $printer = new Printer();
        [$lines, $results] = $printer->body($scalars);
        $nodes = Reachable::from($scalars);
        $uniforms = [];
        foreach ($nodes as $node) {
            if ($node->op === Op::Uniform) {
                $uniforms[$node->name()] = $node->type;
            }
        }
        [$members, $fill, $inputs] = self::inputs($nodes, $bindings);
        $stores = array_map(static fn (string $result, int $o): string => '((' . ($whole[$o] ? 'uint32_t' : 'double') . " *) out[$o])[i] = $result;", $results, array_keys($results));
        $code = CTarget::head($printer->helpers())
            . "typedef struct {\n" . self::lines(self::uniformMembers($uniforms)) . "} rilta_uniforms;\n"
            . "typedef struct {\n" . self::lines(array_map(static fn (string $map): string => "const uint32_t *$map;", array_keys($printer->maps()))) . "    int none;\n} rilta_maps;\n"
            . "typedef struct {\n" . self::lines($members) . "    int none;\n} rilta_point;\n\n"
            . self::ENTRY . " {\n    rilta_uniforms all = { 0 };\n    const rilta_uniforms *u = &all;\n    rilta_maps maps = { 0 };\n    const rilta_maps *m = &maps;\n    rilta_point point = { 0 };\n    const rilta_point *s = &point;\n    (void) u; (void) m; (void) s; (void) numbers; (void) texels; (void) inputs;\n"
            . self::lines(array_map(static fn (string $name, int $n, Type $type): string => "all.$name = (" . (new CDialect())->type($type) . ") numbers[$n];", array_keys($uniforms), array_keys(array_values($uniforms)), array_values($uniforms)))
            . self::lines(array_map(static fn (string $map, int $n): string => "maps.$map = texels[$n];", array_keys($printer->maps()), array_keys(array_keys($printer->maps()))))
            . "    int64_t i = 0;\n    for (int y = y0; y < y1; ++y) {\n        for (int x = x0; x < x1; ++x) {\n"
            . self::lines([...$fill, ...$lines, ...$stores, '++i;'], 3)
            . "        }\n    }\n}\n";

        return new CProgram($this->library($code), array_keys($uniforms), array_values(array_map(static fn ($slot): string => $slot->name, $printer->maps())), $inputs, $widths, $whole);
    }

    /**
     * What a point has, and how it is filled.
     *
     * @param array<int, Node>       $nodes
     * @param array<string, Binding> $bindings
     *
     * @return array{list<string>, list<string>, list<string>} members of the struct, statements, inputs that are handed over
     */
    private static function inputs(array $nodes, array $bindings): array
    {
        $widths = [];
        foreach ($nodes as $node) {
            if ($node->op === Op::Input) {
                [$name, $letter] = explode('.', $node->name()) + [1 => null];
                $widths[$name] = max($widths[$name] ?? 0, $letter === null ? 0 : 1 + (int) strpos('xyzw', $letter));
            }
        }
        $members = $fill = $handed = [];
        foreach ($widths as $name => $width) {
            $members[] = "double $name" . ($width === 0 ? '' : "[$width]") . ';';
            $binding = $bindings[$name] ?? throw new \LogicException("Nothing is bound to $name.");
            if ($binding === Binding::PixelX || $binding === Binding::PixelY) {
                $fill[] = "point.$name = " . ($binding === Binding::PixelX ? 'x' : 'y') . ' + 0.5;';
                continue;
            }
            $n = \count($handed);
            $handed[] = $name;
            for ($c = 0; $c < max(1, $width); ++$c) {
                $at = match ($binding) {
                    Binding::Constant => (string) $c,
                    Binding::Scalars => 'i',
                    Binding::Pairs => "2 * i + $c",
                    Binding::Triples => "3 * i + $c",
                    Binding::Quads => "4 * i + $c",
                };
                $fill[] = "point.$name" . ($width === 0 ? '' : "[$c]") . " = inputs[$n][$at];";
            }
        }

        return [$members, $fill, $handed];
    }

    /**
     * @param array<string, Type> $uniforms
     *
     * @return list<string>
     */
    private static function uniformMembers(array $uniforms): array
    {
        $dialect = new CDialect();

        return [...array_map(static fn (string $name, Type $type): string => "{$dialect->type($type)} $name;", array_keys($uniforms), array_values($uniforms)), 'int none;'];
    }

    /** Compiles code, unless that has been done, and opens the library. */
    private function library(string $code): \FFI
    {
        $base = $this->folder . '/' . hash('xxh128', implode(' ', [$this->compiler, ...self::FLAGS, php_uname('m'), self::abilities()]) . $code);
        if (!is_file("$base.so")) {
            if (!is_dir($this->folder) && !@mkdir($this->folder, 0o775, true) && !is_dir($this->folder)) {
                throw new \RuntimeException(\sprintf('The folder for compiled programs, %s, cannot be made.', $this->folder));
            }
            // Compiled aside and moved, so that no other process ever opens half a library.
            $aside = $base . '.' . bin2hex(random_bytes(4));
            try {
                if (@file_put_contents("$aside.c", $code) !== \strlen($code)) {
                    throw new \RuntimeException(\sprintf('%s cannot be written.', "$aside.c"));
                }
                $process = @proc_open([$this->compiler, ...self::FLAGS, '-o', "$aside.so", "$aside.c", '-lm'], [['file', '/dev/null', 'r'], ['file', '/dev/null', 'w'], ['file', "$aside.log", 'w']], $pipes);
                if (!\is_resource($process) || self::ended($process) !== 0) {
                    throw new \RuntimeException(\sprintf('%s could not compile a program: %s', $this->compiler, trim(substr((string) @file_get_contents("$aside.log"), 0, 500)) ?: 'it is not there'));
                }
                rename("$aside.so", "$base.so");
            } finally {
                array_map(unlink(...), glob("$aside.*") ?: []);
            }
        }

        return \FFI::cdef(self::ENTRY . ';', "$base.so");
    }

    /**
     * The exit code of a process, without holding up signals: a worker has to say that it is alive.
     *
     * @param resource $process
     */
    private static function ended($process): int
    {
        for ($until = microtime(true) + self::PATIENCE; ($status = proc_get_status($process))['running']; usleep(5000)) {
            if (microtime(true) > $until) {
                proc_terminate($process, 9);
                throw new \RuntimeException(\sprintf('The C compiler took more than %d seconds', self::PATIENCE));
            }
        }
        proc_close($process);

        return $status['exitcode'];
    }

    private static function abilities(): string
    {
        return preg_match('/^(?:flags|Features)\s*:.*$/m', (string) @file_get_contents(self::PROCESSOR), $found) === 1 ? $found[0] : '';
    }

    /** @param list<string> $lines */
    private static function lines(array $lines, int $depth = 1): string
    {
        return implode('', array_map(static fn (string $line): string => str_repeat('    ', $depth) . $line . "\n", $lines));
    }
}
