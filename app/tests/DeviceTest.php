<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Rilta\Core\Surface\Surface;

final class DeviceTest extends ApiTestCase
{
    private const URL = '/api/projects/' . self::PROJECT . '/devices';
    private const RESULT = ['device' => 'A device', 'browser' => 'A browser 1', 'materials' => 3, 'samples' => 2000, 'off' => 4, 'far' => 1, 'worst' => 1.5];

    public function testAMaterialIsCodeAndWhatItComesTo(): void
    {
        $this->importSet();
        $id = $this->api('POST', '/api/projects/' . self::PROJECT . '/materials', ['name' => 'Wall', 'set' => 'rock'], 201)['id'];
        self::assertIsInt($id);
        $check = $this->api('GET', "/api/materials/$id/device-check");
        self::assertSame(['value baseColour', 'direction normal', 'value roughness', 'value metallic', 'value occlusion'], $check['outputs']);
        self::assertStringContainsString('vec4 riltaOutput(RiltaSurface s, int which)', self::text($check['code']));
        self::assertSame(128, $check['count']);
        $expected = self::numbers($check['expected']);
        self::assertCount(4 * 5 * 128, $expected);
        self::assertCount(5 * 128, self::numbers($check['borders']));
        self::assertEqualsWithDelta(array_fill(0, 128, 0x99 / 255), \array_slice($expected, 4 * 2 * 128, 128), 1e-6, 'the roughness of the map, which is the same everywhere');
        self::assertEqualsWithDelta(array_fill(0, 128, 1.0), array_map(static fn (int $i): float => $expected[4 * 128 + $i] ** 2 + $expected[5 * 128 + $i] ** 2 + $expected[6 * 128 + $i] ** 2, range(0, 127)), 1e-5, 'normals are unit vectors');
        self::assertCount(\count(Surface::inputs()) * 128 * 4, self::numbers(self::at($check, 'points')['values']));
        foreach (self::at($check, 'arrays') as $array) {
            foreach (self::at($array, 'slots') as $slot) {
                self::assertMatchesRegularExpression('~^/api/maps/\d+/texels-[0-9a-f]{16}$~', self::text(self::at($check, 'maps', self::text($slot))['url']));
            }
        }
        $this->api('GET', '/api/materials/999999/device-check', status: 404);
    }

    /** @return list<float> */
    private static function numbers(mixed $text): array
    {
        /** @var list<float> $numbers */
        $numbers = array_values(unpack('g*', (string) base64_decode(self::text($text), true)) ?: []);

        return $numbers;
    }

    public function testADeviceIsKeptOnceWithWhatWasFoundLast(): void
    {
        self::assertSame([], $this->api('GET', self::URL)['devices']);
        $this->api('POST', self::URL, self::RESULT);
        $this->api('POST', self::URL, ['browser' => 'A browser 2'] + self::RESULT);
        $devices = self::at($this->api('POST', self::URL, ['off' => 7] + self::RESULT), 'devices');
        self::assertEqualsCanonicalizing([['A browser 1', 7], ['A browser 2', 4]], array_map(null, array_column($devices, 'browser'), array_column($devices, 'off')));
        self::assertSame($devices, $this->api('GET', self::URL)['devices']);
    }

    public function testOnlyAsManyAreKeptAsAreOfUse(): void
    {
        for ($i = 0; $i < 102; ++$i) {
            $this->api('POST', self::URL, ['device' => "Device $i"] + self::RESULT);
        }
        $names = array_column(self::at($this->api('GET', self::URL), 'devices'), 'device');
        self::assertCount(100, $names);
        self::assertNotContains('Device 0', $names);
        self::assertContains('Device 101', $names);
    }

    public function testWhatIsNoResultIsRefusedWithItsPlace(): void
    {
        foreach (['device' => ['', 7, str_repeat('x', 201)], 'samples' => [0, -1, 'many', 1.5, null], 'worst' => [-0.1, 'x']] as $name => $values) {
            foreach ($values as $value) {
                $problems = self::at($this->api('POST', self::URL, [$name => $value] + self::RESULT, 422), 'problems');
                self::assertSame(["/$name"], array_column(\array_slice($problems, 0, 1), 'path'), json_encode($value, \JSON_THROW_ON_ERROR));
            }
        }
        self::assertSame([], $this->api('GET', self::URL)['devices']);
        $this->api('POST', '/api/projects/nothing/devices', self::RESULT, 404);
    }
}
