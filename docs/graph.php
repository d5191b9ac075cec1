<?php

declare(strict_types=1);

/*
 * Prints which folders of core/src and app/src use which, and fails where more than three classes use one another in a circle.
 * Usage: php docs/graph.php [--classes]    (with the classes of each circle)
 */

const MOST = 3;
chdir(dirname(__DIR__));

/** @var array<string, string> $files by class */
$files = [];
foreach (['core/src' => 'Rilta\\Core', 'app/src' => 'Rilta\\App'] as $root => $namespace) {
    foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator($root, FilesystemIterator::SKIP_DOTS)) as $file) {
        $path = (string) $file;
        if (str_ends_with($path, '.php')) {
            $files[$namespace . strtr(substr($path, strlen($root), -4), '/', '\\')] = $path;
        }
    }
}

/** @var array<string, list<string>> $uses classes by class */
$uses = [];
foreach ($files as $class => $path) {
    $here = substr($class, 0, (int) strrpos($class, '\\'));
    $imports = [];
    $found = [];
    $tokens = array_values(array_filter(PhpToken::tokenize((string) file_get_contents($path)), static fn (PhpToken $t): bool => !$t->isIgnorable()));
    foreach ($tokens as $i => $token) {
        if ($token->is(T_USE) && $tokens[$i + 1]->is(T_NAME_QUALIFIED)) {
            $name = $tokens[$i + 1]->text;
            $imports[$tokens[$i + 2]->is(T_AS) ? $tokens[$i + 3]->text : substr((string) strrchr($name, '\\'), 1)] = $name;
        } elseif ($token->is([T_STRING, T_NAME_QUALIFIED]) && !$tokens[max(0, $i - 1)]->is([T_OBJECT_OPERATOR, T_NULLSAFE_OBJECT_OPERATOR, T_DOUBLE_COLON, T_FUNCTION, T_CONST, T_NAMESPACE])) {
            $first = explode('\\', $token->text)[0];
            $name = isset($imports[$first]) ? $imports[$first] . substr($token->text, strlen($first)) : "$here\\$token->text";
            if (isset($files[$name]) && $name !== $class) {
                $found[$name] = true;
            }
        }
    }
    $uses[$class] = array_keys($found);
}

$folder = static fn (string $class): string => implode('\\', array_slice(explode('\\', $class), 1, 2));
$arrows = [];
foreach ($uses as $class => $others) {
    foreach ($others as $other) {
        if ($folder($class) !== $folder($other)) {
            $arrows[$folder($class)][$folder($other)] = ($arrows[$folder($class)][$folder($other)] ?? 0) + 1;
        }
    }
}
ksort($arrows);
foreach ($arrows as $from => $to) {
    arsort($to);
    printf("%-18s → %s\n", $from, implode(', ', array_map(static fn (string $one, int $n): string => "$one $n", array_keys($to), $to)));
}

/* Circles: Tarjan 1972. */
$index = $low = $stack = $circles = [];
$visit = static function (string $class) use (&$visit, &$index, &$low, &$stack, &$circles, $uses): void {
    $index[$class] = $low[$class] = count($index);
    $stack[] = $class;
    foreach ($uses[$class] as $other) {
        if (!isset($index[$other])) {
            $visit($other);
            $low[$class] = min($low[$class], $low[$other]);
        } elseif (in_array($other, $stack, true)) {
            $low[$class] = min($low[$class], $index[$other]);
        }
    }
    if ($low[$class] === $index[$class]) {
        $circle = array_splice($stack, (int) array_search($class, $stack, true));
        if (count($circle) > 1) {
            $circles[] = $circle;
        }
    }
};
foreach (array_keys($uses) as $class) {
    if (!isset($index[$class])) {
        $visit($class);
    }
}
$large = array_filter($circles, static fn (array $circle): bool => count($circle) > MOST);
printf("\n%d classes, %d circles, the largest of %d\n", count($uses), count($circles), max([0, ...array_map(count(...), $circles)]));
foreach (in_array('--classes', $argv, true) ? $circles : $large as $circle) {
    echo '  ', implode(', ', array_map(static fn (string $class): string => substr($class, 6), $circle)), "\n";
}
exit($large === [] ? 0 : 1);
