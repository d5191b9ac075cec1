<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** Reads `rilta-material/1` documents. Collects every mistake before it gives up. */
final class Reader
{
    public const MOST_LANES = 32;
    public const MOST_STEPS = 32;
    public const LONGEST_NAME = 120;

    /** @var array<string, StepKind> */
    private readonly array $kinds;

    /** @var list<Problem> */
    private array $problems = [];

    /** @param list<StepKind> $kinds the steps that documents may use */
    public function __construct(array $kinds)
    {
        $byName = [];
        foreach ($kinds as $kind) {
            $byName[$kind->name()] = $kind;
        }
        $this->kinds = $byName;
    }

    /** @throws InvalidDocument */
    public function readJson(string $json): Material
    {
        try {
            return $this->read(json_decode($json, true, 64, \JSON_THROW_ON_ERROR));
        } catch (\JsonException $e) {
            throw InvalidDocument::at('', 'this is not JSON: ' . $e->getMessage());
        }
    }

    /** @throws InvalidDocument */
    public function read(mixed $data): Material
    {
        $this->problems = [];
        $document = $this->object($data, '', ['format', 'name', 'lanes', 'layers']);
        if (($document['format'] ?? null) !== Material::FORMAT) {
            throw InvalidDocument::at('/format', \sprintf('expected "%s", found %s', Material::FORMAT, self::show($document['format'] ?? null)));
        }
        $name = $this->name($document['name'] ?? null, '/name');
        $lanes = [];
        foreach ($this->items($document['lanes'] ?? null, '/lanes', self::MOST_LANES) as $i => $lane) {
            $lanes[] = $this->lane($lane, "/lanes/$i");
        }
        $layers = [];
        foreach ($this->items($document['layers'] ?? null, '/layers', 1) as $i => $layer) {
            $layers[] = $this->layer($layer, "/layers/$i", $lanes);
        }
        $this->unique($lanes, '/lanes');
        if ($this->problems !== []) {
            throw new InvalidDocument($this->problems);
        }
        if ($lanes === [] || $layers === []) {
            throw InvalidDocument::at('', 'expected at least one lane and one layer');
        }

        return new Material($name, $lanes, $layers);
    }

    private function lane(mixed $data, string $path): Lane
    {
        $lane = $this->object($data, $path, ['id', 'name', 'steps']);
        $id = $this->id($lane['id'] ?? null, "$path/id");
        $name = $this->name($lane['name'] ?? null, "$path/name");
        $steps = [];
        foreach ($this->items($lane['steps'] ?? null, "$path/steps", self::MOST_STEPS) as $i => $step) {
            $use = $this->step($step, "$path/steps/$i", $i === 0);
            if ($use !== null) {
                $steps[] = $use;
            }
        }
        if ($steps === []) {
            // A problem has been noted by now; this only keeps the type whole.
            $steps = [new StepUse(array_values($this->kinds)[0], true, new Values([]))];
        }

        return new Lane($id, $name, $steps);
    }

    private function step(mixed $data, string $path, bool $first): ?StepUse
    {
        $step = $this->object($data, $path, ['step', 'on', 'values']);
        $kind = \is_string($step['step'] ?? null) ? $this->kinds[$step['step']] ?? null : null;
        if ($kind === null) {
            $this->object($step['values'] ?? [], "$path/values", null);
            $this->problem("$path/step", 'expected one of ' . implode(', ', array_keys($this->kinds)) . ', found ' . self::show($step['step'] ?? null));

            return null;
        }
        if ($kind->isOrigin() !== $first) {
            $this->problem("$path/step", $first ? 'a lane begins with an origin' : 'an origin can only be the first step of a lane');
        }
        $on = $step['on'] ?? true;
        if (!\is_bool($on)) {
            $this->problem("$path/on", 'expected true or false, found ' . self::show($on));
        } elseif (!$on && $first) {
            $this->problem("$path/on", 'the origin of a lane cannot be switched off');
        }

        return new StepUse($kind, $on === true, $this->values($kind, $step['values'] ?? [], "$path/values"));
    }

    private function values(StepKind $kind, mixed $data, string $path): Values
    {
        $names = array_map(static fn (Control\Control $c): string => $c->name(), $kind->controls());
        $given = $this->object($data, $path, $names);
        $values = [];
        foreach ($kind->controls() as $control) {
            $name = $control->name();
            $values[$name] = $control->default();
            if (\array_key_exists($name, $given)) {
                $objection = $control->objection($given[$name]);
                if ($objection === null) {
                    $values[$name] = $control->normalise($given[$name]);
                } else {
                    $this->problem("$path/$name", $objection . ', found ' . self::show($given[$name]));
                }
            }
        }

        return new Values($values);
    }

    /** @param list<Lane> $lanes */
    private function layer(mixed $data, string $path, array $lanes): Layer
    {
        $layer = $this->object($data, $path, ['id', 'name', 'lane', 'set']);
        $lane = $this->id($layer['lane'] ?? null, "$path/lane");
        $ids = array_map(static fn (Lane $l): string => $l->id, $lanes);
        if ($lane !== '' && !\in_array($lane, $ids, true)) {
            $this->problem("$path/lane", \sprintf('there is no lane "%s"; the lanes are %s', $lane, implode(', ', $ids)));
        }

        return new Layer(
            $this->id($layer['id'] ?? null, "$path/id"),
            $this->name($layer['name'] ?? null, "$path/name"),
            $lane,
            $this->id($layer['set'] ?? null, "$path/set"),
        );
    }

    /** @param list<Lane> $lanes */
    private function unique(array $lanes, string $path): void
    {
        $seen = [];
        foreach ($lanes as $i => $lane) {
            if (isset($seen[$lane->id])) {
                $this->problem("$path/$i/id", \sprintf('the id "%s" is taken by %s', $lane->id, $seen[$lane->id]));
            }
            $seen[$lane->id] = "$path/$i";
        }
    }

    /**
     * @param list<string>|null $known the members that may occur; null for any
     *
     * @return array<string, mixed>
     */
    private function object(mixed $data, string $path, ?array $known): array
    {
        if (!\is_array($data) || ($data !== [] && array_is_list($data))) {
            $this->problem($path, 'expected an object, found ' . self::show($data));

            return [];
        }
        $out = [];
        foreach ($data as $key => $value) {
            if ($known !== null && !\in_array((string) $key, $known, true)) {
                $this->problem("$path/" . self::escape((string) $key), 'is not known here; expected ' . implode(', ', $known));
            }
            $out[(string) $key] = $value;
        }

        return $out;
    }

    /** @return list<mixed> */
    private function items(mixed $data, string $path, int $most): array
    {
        if (!\is_array($data) || !array_is_list($data) || $data === []) {
            $this->problem($path, 'expected a list with at least one entry, found ' . self::show($data));

            return [];
        }
        if (\count($data) > $most) {
            $this->problem($path, \sprintf('expected at most %d, found %d', $most, \count($data)));
        }

        return \array_slice($data, 0, $most);
    }

    private function name(mixed $value, string $path): string
    {
        if (\is_string($value) && trim($value) !== '' && mb_strlen($value) <= self::LONGEST_NAME) {
            return $value;
        }
        $this->problem($path, \sprintf('expected a name of 1 to %d characters, found %s', self::LONGEST_NAME, self::show($value)));

        return '';
    }

    private function id(mixed $value, string $path): string
    {
        if (\is_string($value) && preg_match('/^[a-z0-9](?:[a-z0-9._-]{0,78}[a-z0-9])?$/D', $value) === 1) {
            return $value;
        }
        $this->problem($path, 'expected lower-case letters, digits, dots, hyphens or underscores, found ' . self::show($value));

        return '';
    }

    private function problem(string $path, string $message): void
    {
        $this->problems[] = new Problem($path, $message);
    }

    private static function escape(string $key): string
    {
        return str_replace(['~', '/'], ['~0', '~1'], $key);
    }

    private static function show(mixed $value): string
    {
        if ($value === null) {
            return 'nothing';
        }
        $json = json_encode($value, \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_PARTIAL_OUTPUT_ON_ERROR);

        return mb_strimwidth((string) $json, 0, 60, '…');
    }
}
