<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;

/** What was found in documents, as pipelines read it. */
final readonly class FindingReport
{
    /** What SARIF calls it. */
    private const LEVELS = ['wrong' => 'error', 'doubtful' => 'warning', 'note' => 'note'];

    /**
     * @param list<Rule>                                $rules all that was looked for
     * @param array<string, list<array{Rule, Finding}>> $found by file
     */
    public function __construct(private array $rules, private array $found)
    {
    }

    /** For people: a line for each finding, and one for its fix. */
    public function text(): string
    {
        $text = '';
        foreach ($this->found as $file => $found) {
            $text .= $found === [] ? "$file: nothing\n" : "$file:\n";
            foreach ($found as [$rule, $finding]) {
                $text .= \sprintf("  %-8s %s  %s\n", self::severity($rule, $finding)->value, $finding->path === '' ? '/' : $finding->path, $finding->text) . ($finding->fix === '' ? '' : "           $finding->fix\n");
            }
        }

        return $text;
    }

    /** SARIF 2.1.0 (OASIS 2020). */
    public function sarif(): string
    {
        $results = [];
        foreach ($this->found as $file => $found) {
            foreach ($found as [$rule, $finding]) {
                $results[] = [
                    'ruleId' => $rule->code(),
                    'level' => self::LEVELS[self::severity($rule, $finding)->value],
                    'message' => ['text' => $finding->text . ($finding->fix === '' ? '' : " $finding->fix.")],
                    'locations' => [[
                        'physicalLocation' => ['artifactLocation' => ['uri' => implode('/', array_map(rawurlencode(...), explode('/', $file)))]],
                        'logicalLocations' => [['fullyQualifiedName' => $finding->path === '' ? '/' : $finding->path, 'kind' => 'member']],
                    ]],
                ];
            }
        }
        $rules = array_map(static fn (Rule $rule): array => ['id' => $rule->code(), 'shortDescription' => ['text' => $rule->label()], 'fullDescription' => ['text' => $rule->help()], 'defaultConfiguration' => ['level' => self::LEVELS[$rule->severity()->value]]], $this->rules);

        return json_encode(['version' => '2.1.0', 'runs' => [['tool' => ['driver' => ['name' => 'Rilta', 'rules' => $rules]], 'results' => $results]]], \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE) . "\n";
    }

    /** JUnit's XML: a suite for each file, a case for each rule; what is a note is no failure. */
    public function junit(): string
    {
        $document = new \DOMDocument('1.0', 'UTF-8');
        $document->formatOutput = true;
        $suites = $document->appendChild($document->createElement('testsuites'));
        foreach ($this->found as $file => $found) {
            $suite = $document->createElement('testsuite');
            $suites->appendChild($suite);
            $failures = 0;
            foreach ($this->rules as $rule) {
                $case = $document->createElement('testcase');
                $case->setAttribute('name', $rule->label());
                $case->setAttribute('classname', $rule->code());
                $suite->appendChild($case);
                $told = array_values(array_filter($found, static fn (array $one): bool => $one[0]->code() === $rule->code() && self::severity($one[0], $one[1]) !== Severity::Note));
                if ($told !== []) {
                    ++$failures;
                    $failure = $document->createElement('failure');
                    $failure->setAttribute('type', self::severity(...$told[0])->value);
                    $failure->setAttribute('message', $told[0][1]->text);
                    $failure->appendChild($document->createTextNode(implode("\n", array_map(static fn (array $one): string => "{$one[1]->path} {$one[1]->text}", $told))));
                    $case->appendChild($failure);
                }
            }
            foreach (['name' => $file, 'tests' => (string) \count($this->rules), 'failures' => (string) $failures] as $name => $value) {
                $suite->setAttribute($name, $value);
            }
        }

        return (string) $document->saveXML();
    }

    /** Whether anything is as grave as that, or graver. */
    public function has(Severity $severity): bool
    {
        $order = array_map(static fn (Severity $one): string => $one->value, Severity::cases());
        $least = array_search($severity->value, $order, true);
        foreach ($this->found as $found) {
            foreach ($found as [$rule, $finding]) {
                if (array_search(self::severity($rule, $finding)->value, $order, true) <= $least) {
                    return true;
                }
            }
        }

        return false;
    }

    private static function severity(Rule $rule, Finding $finding): Severity
    {
        return $finding->severity ?? $rule->severity();
    }
}
