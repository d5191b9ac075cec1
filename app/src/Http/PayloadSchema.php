<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use Rilta\App\Http\Payload\Of;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Validator\Constraint;
use Symfony\Component\Validator\Constraints as Assert;

/**
 * What a request has to carry, read off the class that it becomes: as JSON Schema for the description of the API, in words for whoever sent
 * something else.
 *
 * @phpstan-type Schema array<string, mixed>
 */
final readonly class PayloadSchema
{
    private const SCALARS = ['string' => 'string', 'float' => 'number', 'bool' => 'boolean'];

    /** @return class-string|null what the JSON of a request to an action becomes */
    public static function class(\ReflectionFunctionAbstract $action): ?string
    {
        foreach ($action->getParameters() as $parameter) {
            $type = $parameter->getType();
            if ($parameter->getAttributes(MapRequestPayload::class) !== [] && $type instanceof \ReflectionNamedType && class_exists($type->getName())) {
                return $type->getName();
            }
        }

        return null;
    }

    /**
     * @param class-string $class
     *
     * @return array{type: 'object', properties: array<string, Schema>, required: list<string>}
     */
    public static function of(string $class): array
    {
        $properties = [];
        $required = [];
        $constructor = (new \ReflectionClass($class))->getConstructor();
        foreach ($constructor?->getParameters() ?? [] as $parameter) {
            $properties[$parameter->name] = self::parameter($parameter, (string) $constructor?->getDocComment());
            if (!$parameter->isOptional()) {
                $required[] = $parameter->name;
            }
        }

        return ['type' => 'object', 'properties' => $properties, 'required' => $required];
    }

    /**
     * What belongs at a place, in words: "1 to 80 characters".
     *
     * @param class-string $class
     * @param list<string> $path
     */
    public static function expected(string $class, array $path): string
    {
        $schema = self::of($class);
        foreach ($path as $part) {
            $properties = \is_array($schema['properties'] ?? null) ? $schema['properties'] : [];
            $next = $properties[$part] ?? (ctype_digit($part) ? $schema['items'] ?? [] : []);
            $schema = \is_array($next) ? $next : [];
        }

        return self::words($schema);
    }

    /** @param array<array-key, mixed> $schema */
    private static function words(array $schema): string
    {
        if (\is_array($schema['enum'] ?? null)) {
            return implode(', ', array_filter($schema['enum'], is_scalar(...)));
        }
        $bounds = static fn (string $low, string $high): string => match (true) {
            !is_numeric($schema[$high] ?? null) => '',
            !is_numeric($schema[$low] ?? null) => "at most $schema[$high]",
            $schema[$low] === $schema[$high] => "$schema[$low]",
            default => "$schema[$low] to $schema[$high]",
        };

        return match ($schema['type'] ?? null) {
            'string' => $bounds('minLength', 'maxLength') . ' characters',
            'integer' => trim('a whole number ' . self::from($bounds('minimum', 'maximum'))),
            'number' => trim('a number ' . self::from($bounds('minimum', 'maximum'))),
            'boolean' => 'true or false',
            'array' => trim('a list of ' . $bounds('minItems', 'maxItems')) . ' ' . match (\is_array($schema['items'] ?? null) ? $schema['items']['type'] ?? null : null) {
                'string' => 'texts',
                'number' => 'numbers',
                default => 'objects',
            },
            default => 'an object',
        };
    }

    private static function from(string $bounds): string
    {
        return $bounds === '' ? '' : "from $bounds";
    }

    /** @return Schema */
    private static function parameter(\ReflectionParameter $parameter, string $doc): array
    {
        $type = $parameter->getType();
        $name = $type instanceof \ReflectionNamedType ? $type->getName() : 'mixed';
        $of = (self::property($parameter)->getAttributes(Of::class)[0] ?? null)?->newInstance();
        $schema = match (true) {
            $of !== null => $of->partial ? ['type' => 'object', 'description' => "parts of $of->schema"] : ['$ref' => "#/components/schemas/$of->schema"],
            $name === 'array' => ['type' => 'array', 'items' => self::items($parameter, $doc)],
            default => self::type($name),
        };
        foreach (self::constraints($parameter) as $constraint) {
            $schema += self::constrained($constraint);
        }
        // A property of whole numbers would take 1.5 for 1, so such ones are looked at.
        if (array_filter(self::constraints($parameter), static fn (Constraint $one): bool => $one instanceof Assert\DivisibleBy) !== []) {
            $schema = ['type' => 'integer'] + $schema;
            if (\is_array($schema['enum'] ?? null)) {
                $schema['enum'] = array_map(static fn (mixed $one): int => is_numeric($one) ? (int) $one : 0, $schema['enum']);
            }
        }
        if (preg_match('/@param \S+ +\$' . $parameter->name . ' +(?!\*\/)(\S.*?) *(?:\*\/)?$/m', $doc, $found) === 1) {
            $schema['description'] = $found[1];
        }

        return $schema;
    }

    /** @return Schema of what a list consists of, as the description of the constructor says */
    private static function items(\ReflectionParameter $parameter, string $doc): array
    {
        preg_match('/@param list<(\w+)>\S* +\$' . $parameter->name . '\b/', $doc, $found);
        $class = 'Rilta\\App\\Http\\Payload\\' . ($found[1] ?? '');
        $schema = class_exists($class) ? self::of($class) : self::type($found[1] ?? 'mixed');
        foreach (self::constraints($parameter) as $constraint) {
            foreach ($constraint instanceof Assert\All ? (array) $constraint->constraints : [] as $inner) {
                $schema += $inner instanceof Constraint ? self::constrained($inner) : [];
            }
        }

        return $schema;
    }

    /** @return Schema */
    private static function type(string $name): array
    {
        if (enum_exists($name)) {
            return ['type' => 'string', 'enum' => array_map(static fn (\UnitEnum $case): mixed => $case instanceof \BackedEnum ? $case->value : $case->name, $name::cases())];
        }

        return match (true) {
            isset(self::SCALARS[$name]) => ['type' => self::SCALARS[$name]],
            class_exists($name) => self::of($name),
            default => [],
        };
    }

    /** Attributes of Validator stand at the properties that parameters are. */
    private static function property(\ReflectionParameter $parameter): \ReflectionProperty
    {
        return $parameter->getDeclaringClass()?->getProperty($parameter->name) ?? throw new \LogicException("$parameter->name is no property.");
    }

    /** @return list<Constraint> */
    private static function constraints(\ReflectionParameter $parameter): array
    {
        return array_map(static fn (\ReflectionAttribute $one) => $one->newInstance(), self::property($parameter)->getAttributes(Constraint::class, \ReflectionAttribute::IS_INSTANCEOF));
    }

    /** @return Schema */
    private static function constrained(Constraint $constraint): array
    {
        return array_filter(match (true) {
            $constraint instanceof Assert\Length => ['minLength' => $constraint->min, 'maxLength' => $constraint->max],
            $constraint instanceof Assert\Range => ['minimum' => $constraint->min, 'maximum' => $constraint->max],
            $constraint instanceof Assert\Count => ['minItems' => $constraint->min, 'maxItems' => $constraint->max],
            $constraint instanceof Assert\Choice => ['enum' => $constraint->choices],
            $constraint instanceof Assert\Positive => ['minimum' => 1],
            default => [],
        }, static fn (mixed $one): bool => $one !== null);
    }
}
