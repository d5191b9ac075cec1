<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\DeliveryRecord;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\DeliveryOrder;
use Rilta\App\Http\Payload\DeliveryProfileBody;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Deliveries;
use Rilta\App\Service\DeliveryProfiles;
use Rilta\App\Service\Refusal;
use Rilta\Core\Deliver\DeliveryProfile;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * What is wanted of deliveries, and what was delivered.
 *
 * @phpstan-import-type DeliveryJson from Deliveries
 * @phpstan-import-type DeliveryProfileJson from DeliveryProfile
 *
 * @phpstan-type OfferedProfileJson array{
 *     own: bool, // whether the project made it
 *     profile: DeliveryProfileJson,
 * }
 */
final class DeliveryController extends Api
{
    /** @return Answer<200, list<OfferedProfileJson>> */
    #[Route('/api/projects/{slug}/profiles', methods: ['GET'])]
    public function profiles(string $slug, DeliveryProfiles $profiles): Answer
    {
        return new Answer(self::described($this->project($slug), $profiles));
    }

    /**
     * Keeps a profile of the project's own, in place of that of the same name.
     *
     * @return Answer<200, list<OfferedProfileJson>>
     */
    #[Needs(Right::Write)]
    #[Route('/api/projects/{slug}/profiles', methods: ['PUT'])]
    public function profile(string $slug, #[MapRequestPayload('json')] DeliveryProfileBody $body, DeliveryProfiles $profiles): Answer
    {
        $project = $this->project($slug);
        $profiles->put($project, $body->profile);

        return new Answer(self::described($project, $profiles));
    }

    /** @return Answer<200, list<OfferedProfileJson>> */
    #[Route('/api/projects/{slug}/profiles/{name}', methods: ['DELETE'], requirements: ['name' => '[a-z0-9-]{1,40}'])]
    public function deleteProfile(string $slug, string $name, DeliveryProfiles $profiles): Answer
    {
        $project = $this->project($slug);
        $profiles->delete($project, $name);

        return new Answer(self::described($project, $profiles));
    }

    /** @return Answer<201, list<DeliveryJson>> */
    #[Needs(Right::Deliver)]
    #[Route('/api/projects/{slug}/deliveries', methods: ['POST'])]
    public function ask(string $slug, #[MapRequestPayload('json')] DeliveryOrder $order, Deliveries $deliveries): Answer
    {
        return new Answer(array_map(Deliveries::describe(...), $deliveries->ask($this->project($slug), $order->materials, $order->variants, $order->profile)), Response::HTTP_CREATED);
    }

    /**
     * Those of a material, or of all; the latest first.
     *
     * @return Answer<200, list<DeliveryJson>>
     */
    #[Route('/api/projects/{slug}/deliveries', methods: ['GET'])]
    public function list(string $slug, Request $request, Deliveries $deliveries): Answer
    {
        $project = $this->project($slug);
        $id = self::whole($request, 'material', 999999999);
        $material = $id === 0 ? null : $this->entities->getRepository(MaterialRecord::class)->findOneBy(['project' => $project, 'id' => $id]) ?? throw Refusal::notFound('such material');

        return new Answer(array_map(Deliveries::describe(...), $deliveries->of($project, $material)));
    }

    /** @return Answer<200, DeliveryJson> */
    #[Route('/api/deliveries/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function show(int $id): Answer
    {
        return new Answer(Deliveries::describe($this->delivery($id)));
    }

    /** @return Answer<200, DeliveryJson> */
    #[Needs(Right::Deliver)]
    #[Route('/api/deliveries/{id}/cancel', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function cancel(int $id, Deliveries $deliveries): Answer
    {
        $delivery = $this->delivery($id);
        $deliveries->cancel($delivery);

        return new Answer(Deliveries::describe($delivery));
    }

    /**
     * Begins anew with one that has failed.
     *
     * @return Answer<200, DeliveryJson>
     */
    #[Needs(Right::Deliver)]
    #[Route('/api/deliveries/{id}/again', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function again(int $id, Deliveries $deliveries): Answer
    {
        $delivery = $this->delivery($id);
        $deliveries->again($delivery);

        return new Answer(Deliveries::describe($delivery));
    }

    #[Needs(Right::Deliver)]
    #[Route('/api/deliveries/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function delete(int $id, Deliveries $deliveries): Response
    {
        $deliveries->delete($this->delivery($id));

        return new Response(null, Response::HTTP_NO_CONTENT);
    }

    /** All its files. */
    #[Route('/api/deliveries/{id}/files.zip', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function archive(int $id, Deliveries $deliveries): Response
    {
        $delivery = $this->delivery($id);
        $response = new BinaryFileResponse($deliveries->archive($delivery), 200, ['Content-Type' => 'application/zip']);
        $response->deleteFileAfterSend();

        return $response->setContentDisposition('attachment', Deliveries::folder($delivery) . '.zip');
    }

    /** One of its files: its path in the query. */
    #[Route('/api/deliveries/{id}/file', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function file(int $id, Request $request, Deliveries $deliveries): Response
    {
        $path = self::said($request, 'path');
        $response = new Response($deliveries->file($this->delivery($id), $path), 200, ['Content-Type' => 'application/octet-stream', 'Cache-Control' => 'private, no-cache']);
        $response->headers->set('Content-Disposition', $response->headers->makeDisposition('attachment', basename($path)));

        return $response;
    }

    private function delivery(int $id): DeliveryRecord
    {
        return $this->find(DeliveryRecord::class, $id, 'delivery');
    }

    /** @return list<OfferedProfileJson> */
    private static function described(Project $project, DeliveryProfiles $profiles): array
    {
        $ready = $profiles->ready();

        return array_map(static fn (string $name, array $one): array => ['own' => !isset($ready[$name]), 'profile' => $one], array_keys($all = $profiles->of($project)), array_values($all));
    }
}
