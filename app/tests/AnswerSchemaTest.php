<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use PHPUnit\Framework\TestCase;
use Rilta\App\Http\Answer;
use Rilta\App\Http\AnswerSchema;
use Rilta\Core\Json\JsonObject;
use Rilta\Core\Material\Problem;
use Rilta\Core\Material\Role;

/**
 * The description of answers, off types like these.
 *
 * @phpstan-import-type RoleJson from Role
 *
 * @phpstan-type Pair array{float, float}
 * @phpstan-type GrainJson array{fine: bool}
 * @phpstan-type PlankJson array{
 *     id: int<1, 9>,
 *     role: RoleJson,
 *     kind: 'oak'|'ash', // of wood
 *     size: Pair,
 *     ends: array{string, int},
 *     parts: list<array{name: string, of?: ?GrainJson}>, // in their order
 *     weights: JsonObject<float|int>, // kilograms by "place" // of all
 *     about: mixed,
 *     wrong: ?Problem,
 *     known: array{ // what is known of it
 *         since: string|null, // a date
 *         sure: true,
 *     },
 * }
 */
final class AnswerSchemaTest extends TestCase
{
    public function testAnActionIsReadByItsTypes(): void
    {
        $schema = new AnswerSchema();
        $plank = ['$ref' => '#/components/schemas/Plank'];
        self::assertSame([201 => $plank, 202 => ['type' => 'array', 'items' => ['type' => 'string']]], $schema->of(new \ReflectionMethod($this, 'made')));
        foreach (['testAnActionIsReadByItsTypes', 'files'] as $other) {
            self::assertSame([], $schema->of(new \ReflectionMethod($this, $other)), 'it answers no JSON');
        }

        $schemas = $schema->schemas();
        self::assertSame(['Grain', 'Plank', 'Problem', 'Role'], array_keys($schemas));
        self::assertSame(['type' => 'string', 'enum' => array_column(Role::cases(), 'value')], $schemas['Role']);
        self::assertSame(['path', 'message'], $schemas['Problem']['required']);
        self::assertEquals([
            'type' => 'object',
            'properties' => [
                'id' => ['type' => 'integer', 'minimum' => 1, 'maximum' => 9],
                'role' => ['$ref' => '#/components/schemas/Role'],
                'kind' => ['type' => 'string', 'enum' => ['oak', 'ash'], 'description' => 'of wood'],
                'size' => ['type' => 'array', 'items' => ['type' => 'number'], 'minItems' => 2, 'maxItems' => 2],
                'ends' => ['type' => 'array', 'prefixItems' => [['type' => 'string'], ['type' => 'integer']], 'items' => false, 'minItems' => 2, 'maxItems' => 2],
                'parts' => ['type' => 'array', 'items' => [
                    'type' => 'object', 'properties' => ['name' => ['type' => 'string'], 'of' => ['anyOf' => [['$ref' => '#/components/schemas/Grain'], ['type' => 'null']]]], 'required' => ['name'], 'additionalProperties' => false,
                ], 'description' => 'in their order'],
                'weights' => ['type' => 'object', 'additionalProperties' => ['type' => 'number'], 'description' => 'kilograms by "place" // of all'],
                'about' => new \stdClass(),
                'wrong' => ['anyOf' => [['$ref' => '#/components/schemas/Problem'], ['type' => 'null']]],
                'known' => [
                    'type' => 'object', 'properties' => ['since' => ['type' => ['string', 'null'], 'description' => 'a date'], 'sure' => ['const' => true]], 'required' => ['since', 'sure'], 'additionalProperties' => false,
                    'description' => 'what is known of it',
                ],
            ],
            'required' => ['id', 'role', 'kind', 'size', 'ends', 'parts', 'weights', 'about', 'wrong', 'known'],
            'additionalProperties' => false,
        ], $schemas['Plank']);
    }

    public function testWhatNobodySaysIsNoSchema(): void
    {
        $this->expectExceptionMessage('NothingJson cannot be described');
        (new AnswerSchema())->named('NothingJson', self::class);
    }

    public function testTwoOfOneNameAreToldApart(): void
    {
        $schema = new AnswerSchema();
        $schema->named('PlankJson', self::class);
        $this->expectExceptionMessage('"Plank" is said by ' . self::class);
        $schema->named('PlankJson', Planks::class);
    }

    public function testAnObjectWithNothingInItIsNoList(): void
    {
        self::assertSame('{"none":{},"one":{"a":1.0}}', (new Answer(['none' => new JsonObject([]), 'one' => new JsonObject(['a' => 1.0])]))->getContent());
        $answer = new Answer([], 201, 7);
        self::assertSame(['[]', 201, '"7"'], [$answer->getContent(), $answer->getStatusCode(), $answer->getEtag()]);
    }

    /** @return list<string> */
    public function files(): array
    {
        return [];
    }

    /** @return Answer<201, PlankJson>|Answer<202, list<string>> */
    public function made(bool $later): Answer
    {
        return $later ? new Answer(['oak'], 202) : new Answer([
            'id' => 1, 'role' => 'height', 'kind' => 'oak', 'size' => [1.0, 0.2], 'ends' => ['left', 1], 'parts' => [['name' => 'grain']], 'weights' => new JsonObject(['all' => 3]), 'about' => null, 'wrong' => null,
            'known' => ['since' => null, 'sure' => true],
        ], 201);
    }
}

/** @phpstan-type PlankJson array{id: int} */
final class Planks
{
}
