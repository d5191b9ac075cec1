<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\NameGuess;

final class NameGuessTest extends TestCase
{
    /** @return iterable<string, array{string, string, string, ?int, string}> */
    public static function names(): iterable
    {
        foreach (file(__DIR__ . '/names.txt', \FILE_IGNORE_NEW_LINES) ?: [] as $line) {
            if ($line !== '' && !str_starts_with($line, '#')) {
                [$file, $role, $set, $alternate, $more] = array_map(trim(...), explode('|', $line)) + ['', '', '', '', ''];
                yield $file => [$file, $role, $set, $alternate === '' ? null : (int) $alternate, $more];
            }
        }
    }

    #[DataProvider('names')]
    public function testWhatANameSays(string $file, string $role, string $set, ?int $alternate, string $more): void
    {
        $guess = NameGuess::of($file);
        $said = [
            ...($guess->inverted ? ['inverted'] : []),
            ...($guess->greenDown === null ? [] : [$guess->greenDown ? 'down' : 'up']),
            ...array_map(static fn (array $one): string => $one['channels'] . ':' . ($one['inverted'] ? '-' : '') . $one['role']->value, $guess->channels),
        ];
        self::assertSame([$role, $set, $alternate, $more], [$guess->role->value, $guess->set, $guess->alternate, implode(' ', $said)]);
        self::assertNotSame('', $guess->reason);
    }

    public function testTheCorpusIsLarge(): void
    {
        self::assertGreaterThanOrEqual(120, iterator_count((static fn () => yield from self::names())()));
    }

    public function testAlternatesShareAFamily(): void
    {
        self::assertSame(['shell', 'shell'], [NameGuess::of('Shell_01_Albedo.png')->family, NameGuess::of('shell-nrm-12.png')->family]);
        self::assertSame('shell-203', NameGuess::of('shell_203_albedo.png')->family, 'a long number is a name');
    }

    public function testTheGuessGivesItsReason(): void
    {
        self::assertSame('"ao" in the name', NameGuess::of('slate_ao.png')->reason);
        self::assertSame('no word for a role in the name', NameGuess::of('pebbles.png')->reason);
        self::assertSame('"gloss" in the name; smoothness, the opposite of roughness', NameGuess::of('slate_gloss.png')->reason);
        self::assertSame('"nor" in the name; "dx": green points down', NameGuess::of('slate_nor_dx.png')->reason);
        self::assertSame('"mos" in the name; R: metallic; G: occlusion; B: smoothness', NameGuess::of('slate_mos.png')->reason);
    }

    public function testNamesBecomeShortPlainWords(): void
    {
        self::assertSame('maps', NameGuess::slug('***'));
        self::assertMatchesRegularExpression('/^[a-z0-9](?:[a-z0-9-]{0,78}[a-z0-9])?$/D', NameGuess::slug(str_repeat('Ab-', 60)));
    }
}
