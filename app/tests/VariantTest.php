<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Rilta\Core\Stage\Stage;

/** Variants through the interface: probed, baked, as tables. */
final class VariantTest extends ApiTestCase
{
    /** @return array<string, mixed> a material whose size follows a parameter, with two variants */
    private static function varied(): array
    {
        return [
            'lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => [['step' => 'origin', 'values' => ['seam' => 20.0]], ['step' => 'size', 'values' => ['u' => ['parameter' => 'size']]]]]],
            'parameters' => [['id' => 'size', 'name' => 'Size', 'kind' => 'number', 'value' => 2.0]],
            'variants' => [['id' => 'small', 'name' => 'Small', 'values' => ['size' => 0.5]], ['id' => 'smaller', 'name' => 'Smaller', 'base' => 'small', 'values' => []]],
        ] + self::document();
    }

    public function testThePointOfAnObjectIsProbedInWhatTheObjectWears(): void
    {
        $this->importSet();
        $stage = Stage::first();
        $probe = function (string $shown, string $worn) use ($stage): array {
            $dressed = array_replace_recursive($stage, ['objects' => [['variant' => $worn]]]);
            // Straight down onto the floor, away from all else.
            $trail = $this->api('POST', '/api/projects/' . self::PROJECT . '/probe', [
                'document' => self::varied(), 'stage' => $dressed, 'variant' => $shown, 'eye' => [0.3, 3.0, 5.7], 'ray' => [0.0, -1.0, 0.0], 'rayRight' => [0.001, -1.0, 0.0], 'rayDown' => [0.0, -1.0, 0.001],
            ]);
            self::assertSame('floor', self::at($trail, 'object')['id']);
            $stops = array_filter(self::at($trail, 'stops'), static fn (mixed $stop): bool => \is_array($stop) && $stop['path'] === '/lanes/0/steps/1');

            return self::at(array_values($stops), 0, 'readings', 0, 'values');
        };
        $written = $probe('', '');
        $small = $probe('small', '');
        self::assertNotSame($written, $small);
        self::assertEqualsWithDelta([0.6, 11.4], $small, 1e-9, '0.3 and 5.7 m at 0.5 m per repeat');
        self::assertEqualsWithDelta([0.15, 2.85], $written, 1e-9, 'the same at 2 m per repeat');
        self::assertSame($small, $probe('', 'small'), 'what it wears goes before what is shown');
        self::assertSame($small, $probe('', 'smaller'), 'through what it builds on');
        self::assertSame($written, $probe('', 'of-another-material'), 'what this material does not have is not worn');
        $this->api('POST', '/api/projects/' . self::PROJECT . '/probe', ['document' => self::varied(), 'stage' => $stage, 'variant' => 'huge', 'eye' => [0.3, 3.0, 5.7], 'ray' => [0, -1, 0], 'rayRight' => [0.001, -1, 0], 'rayDown' => [0, -1, 0.001]], 422);
    }

    public function testAVariantIsBakedUnderItsName(): void
    {
        $this->importSet();
        $url = '/api/projects/' . self::PROJECT . '/bakes';
        $bake = $this->api('POST', $url, ['document' => self::varied(), 'size' => 256, 'variant' => 'smaller'], 201);
        self::assertSame('rock-smaller-256', $bake['name']);
        $this->drain();
        $done = $this->api('GET', '/api/bakes/' . self::int($bake['id']));
        self::assertEqualsWithDelta(0.5, self::at($done, 'facts')['width'], 1e-9, 'its tile is as small as the variant says');
        $problem = $this->api('POST', $url, ['document' => self::varied(), 'size' => 256, 'variant' => 'huge'], 422);
        self::assertStringContainsString('there is no variant', json_encode($problem, \JSON_THROW_ON_ERROR));
    }

    public function testTheyGoOutAsATableAndComeBack(): void
    {
        $csv = self::text($this->api('POST', '/api/variant-table', ['document' => self::varied()])['csv']);
        self::assertSame("variant,name,base,size\r\n,Rock,,2\r\nsmall,Small,,0.5\r\nsmaller,Smaller,small,\r\n", $csv);
        $read = $this->api('POST', '/api/variant-table/read', ['document' => self::varied(), 'csv' => str_replace('0.5', '0.75', $csv)]);
        self::assertSame(['small', ['size' => 0.75]], [self::at($read, 'variants', 0)['id'], self::at($read, 'variants', 0, 'values')]);
        self::assertSame(['smaller', []], [self::at($read, 'variants', 1)['id'], self::at($read, 'variants', 1, 'values')]);
        $problem = $this->api('POST', '/api/variant-table/read', ['document' => self::varied(), 'csv' => "variant,size\nsmall,much"], 422);
        self::assertSame('/2/size', self::at($problem, 'problems', 0)['path']);
    }
}
