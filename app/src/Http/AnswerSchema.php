<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use PHPStan\PhpDocParser\Ast\ConstExpr\ConstExprIntegerNode;
use PHPStan\PhpDocParser\Ast\ConstExpr\ConstExprStringNode;
use PHPStan\PhpDocParser\Ast\PhpDoc\PhpDocNode;
use PHPStan\PhpDocParser\Ast\Type\ArrayShapeItemNode;
use PHPStan\PhpDocParser\Ast\Type\ArrayShapeNode;
use PHPStan\PhpDocParser\Ast\Type\ConstTypeNode;
use PHPStan\PhpDocParser\Ast\Type\GenericTypeNode;
use PHPStan\PhpDocParser\Ast\Type\IdentifierTypeNode;
use PHPStan\PhpDocParser\Ast\Type\NullableTypeNode;
use PHPStan\PhpDocParser\Ast\Type\TypeNode;
use PHPStan\PhpDocParser\Ast\Type\UnionTypeNode;
use PHPStan\PhpDocParser\Lexer\Lexer;
use PHPStan\PhpDocParser\Parser\ConstExprParser;
use PHPStan\PhpDocParser\Parser\PhpDocParser;
use PHPStan\PhpDocParser\Parser\TokenIterator;
use PHPStan\PhpDocParser\Parser\TypeParser;
use PHPStan\PhpDocParser\ParserConfig;
use Symfony\Component\TypeInfo\TypeContext\TypeContextFactory;

/**
 * What actions answer, as JSON Schema, read off the types that PHPStan holds the code against: an action says
 * `@return Answer<201, MaterialJson>`, and `MaterialJson` is a type of the class that makes it (`@phpstan-type MaterialJson array{…}`), which is
 * the schema "Material". A comment behind a key, on the line where it begins, describes it.
 *
 * @phpstan-type Schema array<string, mixed>
 */
final class AnswerSchema
{
    /** Of types that are schemas. */
    public const SUFFIX = 'Json';
    private const PLAIN = [
        'string' => ['type' => 'string'], 'int' => ['type' => 'integer'], 'float' => ['type' => 'number'], 'bool' => ['type' => 'boolean'],
        'null' => ['type' => 'null'], 'mixed' => [], 'true' => ['const' => true], 'false' => ['const' => false],
    ];

    private readonly PhpDocParser $parser;
    private readonly TypeParser $types;
    private readonly Lexer $lexer;
    private readonly TypeContextFactory $contexts;

    /** @var array<string, Schema> what answers lead to, by name */
    private array $schemas = [];

    /** @var array<string, class-string> where each is from */
    private array $homes = [];

    /** @var list<string> of the comment that is read */
    private array $lines = [];

    public function __construct()
    {
        $config = new ParserConfig(['lines' => true]);
        $constants = new ConstExprParser($config);
        $this->types = new TypeParser($config, $constants);
        $this->parser = new PhpDocParser($config, $this->types, $constants);
        $this->lexer = new Lexer($config);
        $this->contexts = new TypeContextFactory();
    }

    /** @return array<string, Schema> what those lead to that were asked for, by name */
    public function schemas(): array
    {
        ksort($this->schemas);

        return $this->schemas;
    }

    /** @return array<int, Schema> what an action answers, by status; empty for one that answers no JSON */
    public function of(\ReflectionMethod $action): array
    {
        $answers = [];
        foreach ($this->read($action)->getReturnTagValues() as $tag) {
            foreach ($tag->type instanceof UnionTypeNode ? $tag->type->types : [$tag->type] as $type) {
                if (!$type instanceof GenericTypeNode || (string) $type->type !== 'Answer') {
                    continue;
                }
                [$statuses, $data] = $type->genericTypes;
                $schema = $this->schema($data, $action->class);
                foreach ($statuses instanceof UnionTypeNode ? $statuses->types : [$statuses] as $status) {
                    $answers[(int) (string) $status] = $schema;
                }
            }
        }

        return $answers;
    }

    /** @param \ReflectionClass<object>|\ReflectionMethod $of */
    private function read(\ReflectionClass|\ReflectionMethod $of): PhpDocNode
    {
        $said = $of->getDocComment() ?: '/** */';
        $this->lines = explode("\n", $said);

        return $this->parser->parse(new TokenIterator($this->lexer->tokenize($said)));
    }

    /**
     * @param class-string $home where names are looked up
     *
     * @return Schema
     */
    private function schema(TypeNode $type, string $home): array
    {
        return match (true) {
            $type instanceof NullableTypeNode => $this->either([$type->type, new IdentifierTypeNode('null')], $home),
            $type instanceof UnionTypeNode => $this->either(array_values($type->types), $home),
            $type instanceof ArrayShapeNode => $this->shape($type, $home),
            $type instanceof ConstTypeNode => ['const' => self::constant($type)],
            $type instanceof GenericTypeNode => $this->generic($type, $home),
            $type instanceof IdentifierTypeNode => self::PLAIN[$type->name] ?? $this->named($type->name, $home),
            default => throw new \LogicException("$home: $type cannot be described."),
        };
    }

    private static function constant(ConstTypeNode $type): string|int
    {
        return match (true) {
            $type->constExpr instanceof ConstExprStringNode => $type->constExpr->value,
            $type->constExpr instanceof ConstExprIntegerNode => (int) $type->constExpr->value,
            default => throw new \LogicException("$type cannot be described."),
        };
    }

    /**
     * @param list<TypeNode> $types
     * @param class-string   $home
     *
     * @return Schema
     */
    private function either(array $types, string $home): array
    {
        $constants = array_filter($types, static fn (TypeNode $one): bool => $one instanceof ConstTypeNode);
        $schemas = array_map(fn (TypeNode $one): array => $this->schema($one, $home), array_values(array_diff_key($types, $constants)));
        if (\count($constants) === 1) {
            $schemas[] = $this->schema(current($constants), $home);
        } elseif ($constants !== []) {
            $values = array_values(array_map(self::constant(...), $constants));
            $schemas[] = ['type' => \is_string($values[0]) ? 'string' : 'integer', 'enum' => $values];
        }
        $plain = array_filter($schemas, static fn (array $one): bool => array_keys($one) === ['type']);
        if (\count($plain) > 1) {
            $types = array_column($plain, 'type');
            $types = array_values(array_filter($types, static fn (mixed $one): bool => $one !== 'integer' || !\in_array('number', $types, true)));
            $schemas = [['type' => \count($types) === 1 ? $types[0] : $types], ...array_values(array_diff_key($schemas, $plain))];
        }

        return \count($schemas) === 1 ? $schemas[0] : ['anyOf' => $schemas];
    }

    /**
     * @param class-string $home
     *
     * @return Schema
     */
    private function shape(ArrayShapeNode $shape, string $home): array
    {
        if ($shape->items !== [] && $shape->items[0]->keyName === null) {
            $items = array_map(fn (ArrayShapeItemNode $one): array => $this->schema($one->valueType, $home), $shape->items);
            $alike = array_filter($items, static fn (array $one): bool => $one !== $items[0]) === [];

            return ['type' => 'array'] + ($alike ? ['items' => $items[0]] : ['prefixItems' => $items, 'items' => false]) + ['minItems' => \count($items), 'maxItems' => \count($items)];
        }
        // A comment belongs to the outermost of what begins on its line.
        $words = array_map($this->words(...), $shape->items);
        $properties = [];
        foreach ($shape->items as $i => $item) {
            $properties[trim((string) $item->keyName, "'")] = self::orAnything($this->schema($item->valueType, $home) + ($words[$i] === '' ? [] : ['description' => $words[$i]]));
        }
        $required = array_values(array_map(static fn (ArrayShapeItemNode $one): string => trim((string) $one->keyName, "'"), array_filter($shape->items, static fn (ArrayShapeItemNode $one): bool => !$one->optional)));

        return ['type' => 'object', 'properties' => $properties] + ($required === [] ? [] : ['required' => $required]) + ($shape->sealed ? ['additionalProperties' => false] : []);
    }

    /**
     * @param Schema $schema
     *
     * @return Schema|\stdClass
     */
    private static function orAnything(array $schema): array|\stdClass
    {
        return $schema === [] ? new \stdClass() : $schema;
    }

    private function words(ArrayShapeItemNode $item): string
    {
        $line = $item->getAttribute('startLine');
        $line = \is_int($line) ? $line - 1 : 0;
        if (preg_match('~ // (.+)$~', $this->lines[$line] ?? '', $found) !== 1) {
            return '';
        }
        $this->lines[$line] = '';

        return trim($found[1]);
    }

    /**
     * @param class-string $home
     *
     * @return Schema
     */
    private function generic(GenericTypeNode $type, string $home): array
    {
        $of = $type->genericTypes;

        return match ((string) $type->type) {
            'list', 'non-empty-list' => ['type' => 'array', 'items' => self::orAnything($this->schema($of[0], $home))],
            'JsonObject' => ['type' => 'object', 'additionalProperties' => self::orAnything($this->schema($of[0], $home))],
            // Never empty: PHP has `[]` for an array with nothing in it.
            'array', 'non-empty-array' => ['type' => 'object', 'additionalProperties' => self::orAnything($this->schema($of[1], $home))],
            'int' => ['type' => 'integer'] + array_filter(['minimum' => self::bound($of[0]), 'maximum' => self::bound($of[1])], \is_int(...)),
            'value-of' => self::enum($this->contexts->createFromClassName($home)->normalize((string) $of[0])),
            default => throw new \LogicException("$home: $type cannot be described; values by name are a JsonObject."),
        };
    }

    private static function bound(TypeNode $type): ?int
    {
        return $type instanceof ConstTypeNode ? (int) self::constant($type) : null;
    }

    /** @return Schema */
    private static function enum(string $enum): array
    {
        if (!is_subclass_of($enum, \BackedEnum::class)) {
            throw new \LogicException("$enum is no enum with values.");
        }
        $values = array_map(static fn (\BackedEnum $case): string|int => $case->value, $enum::cases());

        return ['type' => \is_string($values[0]) ? 'string' : 'integer', 'enum' => $values];
    }

    /**
     * @param class-string $home of whose types it is one
     *
     * @return Schema
     */
    public function named(string $name, string $home): array
    {
        $lines = $this->lines;
        try {
            return $this->alias($name, $home);
        } finally {
            $this->lines = $lines;
        }
    }

    /**
     * @param class-string $home
     *
     * @return Schema
     */
    private function alias(string $name, string $home): array
    {
        $read = $this->read(new \ReflectionClass($home));
        foreach ($read->getTypeAliasImportTagValues() as $import) {
            if (($import->importedAs ?? $import->importedAlias) === $name) {
                $from = $this->contexts->createFromClassName($home)->normalize((string) $import->importedFrom);

                return class_exists($from) || interface_exists($from) || enum_exists($from) ? $this->alias($import->importedAlias, $from) : throw new \LogicException("$home: there is no $from.");
            }
        }
        foreach ($read->getTypeAliasTagValues() as $alias) {
            if ($alias->alias === $name) {
                return str_ends_with($name, self::SUFFIX)
                    ? $this->component(substr($name, 0, -\strlen(self::SUFFIX)), $home, fn (): array => $this->schema($alias->type, $home))
                    : $this->schema($alias->type, $home);
            }
        }
        $class = $this->contexts->createFromClassName($home)->normalize($name);

        return match (true) {
            is_subclass_of($class, \BackedEnum::class) => self::enum($class),
            class_exists($class) => $this->component((new \ReflectionClass($class))->getShortName(), $class, fn (): array => $this->object($class)),
            default => throw new \LogicException("$home: $name cannot be described."),
        };
    }

    /**
     * What is public of an object.
     *
     * @param class-string $class
     *
     * @return Schema
     */
    private function object(string $class): array
    {
        $of = new \ReflectionClass($class);
        $constructor = $of->getConstructor();
        $said = [];
        foreach ($constructor === null ? [] : $this->read($constructor)->getParamTagValues() as $tag) {
            $said[substr($tag->parameterName, 1)] = $tag;
        }
        $properties = [];
        foreach ($of->getProperties(\ReflectionProperty::IS_PUBLIC) as $property) {
            $tag = $said[$property->name] ?? null;
            $words = $tag->description ?? trim((string) preg_replace('~^/\*\*|\*/$|^\s*\*~m', '', (string) $property->getDocComment()));
            $properties[$property->name] = $this->schema($tag->type ?? $this->type((string) $property->getType()), $class) + ($words === '' ? [] : ['description' => (string) preg_replace('/\s+/', ' ', $words)]);
        }

        return ['type' => 'object', 'properties' => $properties, 'required' => array_keys($properties), 'additionalProperties' => false];
    }

    private function type(string $type): TypeNode
    {
        return $this->types->parse(new TokenIterator($this->lexer->tokenize($type)));
    }

    /**
     * @param class-string       $home
     * @param \Closure(): Schema $schema
     *
     * @return Schema
     */
    private function component(string $name, string $home, \Closure $schema): array
    {
        if (($this->homes[$name] ??= $home) !== $home) {
            throw new \LogicException("\"$name\" is said by {$this->homes[$name]} and by $home.");
        }
        $this->schemas[$name] ??= $schema();

        return ['$ref' => "#/components/schemas/$name"];
    }
}
