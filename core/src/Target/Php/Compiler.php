<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Php;

use Rilta\Core\Field\Graph;
use Rilta\Core\Target\Engine;
use Rilta\Core\Target\Pass\Scalariser;

/**
 * Turns fields into kernels. A kernel is a file named by the hash of its code, so that equal graphs are
 * compiled once and OPcache's compiler can take them.
 */
final readonly class Compiler implements Engine
{
    /** Seconds after which it is noted once more that a kernel is in use. */
    private const USED = 86400;

    public function __construct(private string $folder)
    {
    }

    public function name(): string
    {
        return 'php';
    }

    public function compile(Graph $graph, array $outputs, array $bindings): Kernel
    {
        $scalariser = new Scalariser($graph);
        $scalars = [];
        $widths = [];
        foreach ($outputs as $name => $field) {
            $components = $scalariser->scalarise($field);
            $widths[$name] = \count($components);
            array_push($scalars, ...$components);
        }

        return new Kernel($this->load((new Printer($bindings))->print($scalars)), $widths);
    }

    private function load(string $code): \Closure
    {
        $file = $this->folder . '/' . hash('xxh128', $code) . '.php';
        if (is_file($file) && filemtime($file) < time() - self::USED) {
            // What is used stays: what has not been for long may be taken away.
            @touch($file);
        }
        $function = is_file($file) ? @include $file : false;
        if ($function === false) {
            if (!is_dir($this->folder) && !@mkdir($this->folder, 0o775, true) && !is_dir($this->folder)) {
                throw new \RuntimeException(\sprintf('The folder for compiled kernels, %s, cannot be made.', $this->folder));
            }
            // Written aside and moved, so that no other process ever reads half a file.
            $aside = $file . '.' . bin2hex(random_bytes(4));
            file_put_contents($aside, $code);
            rename($aside, $file);
            $function = require $file;
        }

        return $function instanceof \Closure ? $function : throw new \RuntimeException(\sprintf('The kernel %s is damaged; delete it.', $file));
    }
}
