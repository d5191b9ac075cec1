<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\DeviceRecord;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\DeviceResult;
use Rilta\App\Security\Needs;
use Rilta\App\Service\LoweredCode;
use Rilta\App\Service\Projects;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * How near devices come to what the core computes.
 *
 * @phpstan-import-type DeviceCheckJson from LoweredCode
 *
 * @phpstan-type DevicesJson array{devices: list<array{
 *         device: string,
 *         browser: string,
 *         checkedAt: string,
 *         materials: int,
 *         samples: int,
 *         off: int,
 *         far: int,
 *         worst: float,
 *     }>}
 */
final class DeviceController extends Api
{
    /** Devices that a project remembers: those that were looked at last. */
    private const MOST = 100;

    /** @return Answer<200, DeviceCheckJson> */
    #[Route('/api/materials/{id}/device-check', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function check(int $id, LoweredCode $code): Answer
    {
        $record = $this->find(MaterialRecord::class, $id, 'material');

        return Answer::text($code->deviceCheck($record->project, json_decode($record->document, true)));
    }

    /** @return Answer<200, DevicesJson> */
    #[Route('/api/projects/{slug}/devices', methods: ['GET'])]
    public function list(string $slug): Answer
    {
        return $this->answer($this->project($slug));
    }

    /** @return Answer<200, DevicesJson> */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/devices', methods: ['POST'])]
    public function keep(string $slug, #[MapRequestPayload('json')] DeviceResult $result, Projects $projects): Answer
    {
        $project = $this->project($slug);
        [$device, $browser] = [trim($result->device), trim($result->browser)];
        $projects->alone($project, function () use ($project, $result, $device, $browser): DeviceRecord {
            $record = $this->entities->getRepository(DeviceRecord::class)->findOneBy(['project' => $project, 'nameHash' => DeviceRecord::hash($device, $browser)]) ?? new DeviceRecord($project, $device, $browser);
            $record->checkedAt = new \DateTimeImmutable();
            [$record->materials, $record->samples, $record->off, $record->far, $record->worst] = [(int) $result->materials, (int) $result->samples, (int) $result->off, (int) $result->far, $result->worst];
            $this->entities->persist($record);
            $this->entities->flush();
            foreach ($this->devices($project, self::MOST) as $old) {
                $this->entities->remove($old);
            }
            $this->entities->flush();

            return $record;
        });

        return $this->answer($project);
    }

    /** @return list<DeviceRecord> the latest first, after so many */
    private function devices(Project $project, int $after = 0): array
    {
        return $this->entities->getRepository(DeviceRecord::class)->findBy(['project' => $project], ['checkedAt' => 'DESC', 'id' => 'DESC'], self::MOST, $after);
    }

    /** @return Answer<200, DevicesJson> */
    private function answer(Project $project): Answer
    {
        return new Answer(['devices' => array_map(static fn (DeviceRecord $one): array => [
            'device' => $one->device,
            'browser' => $one->browser,
            'checkedAt' => $one->checkedAt->format(\DATE_ATOM),
            'materials' => $one->materials,
            'samples' => $one->samples,
            'off' => $one->off,
            'far' => $one->far,
            'worst' => $one->worst,
        ], $this->devices($project))]);
    }
}
