<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Check\Alignment;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\MapFacts;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\Role;

final class AlignmentTest extends TestCase
{
    /** @param array<string, array{int, bool, bool}> $maps side in pixels, 16 bits, inverted, by role */
    private static function set(string $name, array $maps): MapSet
    {
        $facts = [];
        foreach ($maps as $role => [$side, $deep, $inverted]) {
            $facts[] = new MapFacts("$name/$role", Role::from($role), Encoding::Data, $side, $side, $deep, $inverted);
        }

        return new MapSet($name, 1.0, $facts);
    }

    public function testWhatDiffersFromMostIsNamed(): void
    {
        $usual = ['roughness' => [64, false, false], 'height' => [64, true, false]];
        $sets = [self::set('a', $usual), self::set('b', ['roughness' => [32, false, false], 'height' => [64, true, false]]), self::set('c', ['roughness' => [64, false, true]]), self::set('d', ['height' => [64, false, false]] + $usual)];
        self::assertSame([
            ['b', Role::Roughness, 'b/roughness has 32 x 32 pixels, the others 64 x 64', 'size'],
            ['c', Role::Roughness, 'c/roughness has 8 bits, inverted, the others 8 bits', 'form'],
            ['c', Role::Height, 'c has no height; 3 of 4 have', 'missing'],
            ['d', Role::Height, 'd/height has 8 bits, the others 16 bits', 'form'],
        ], array_map(static fn (array $one): array => [$one['set'], $one['role'], $one['text'], $one['kind']], Alignment::misfits($sets)));
        self::assertSame([64, 64], Alignment::size($sets, Role::Roughness));
        self::assertNull(Alignment::size($sets, Role::Opacity));
        self::assertSame([], Alignment::misfits([self::set('a', $usual), self::set('b', $usual)]));
    }

    public function testFamiliesAreSeenByTheirNames(): void
    {
        self::assertSame(
            ['salt' => ['salt-1', 'salt-2', 'salt-10'], 'shell' => ['shell', 'shell-b']],
            Family::byName(['salt-10', 'shell-b', 'salt-2', 'brine', 'salt-1', 'shell', 'lone-3']),
        );
        self::assertSame('expected 2 to 8 map sets', Family::objection(['a']));
        self::assertSame('expected every map set once', Family::objection(['a', 'a']));
        self::assertNull(Family::objection(['a', 'b']));
    }
}
