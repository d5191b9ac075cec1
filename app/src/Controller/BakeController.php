<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Bake;
use Rilta\App\Entity\BakeState;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\BakeOrder;
use Rilta\App\Http\Payload\LayoutQuestion;
use Rilta\App\Http\Payload\TileQuestion;
use Rilta\App\Security\Needs;
use Rilta\App\Service\BakeFiles;
use Rilta\App\Service\Bakery;
use Rilta\App\Service\Refusal;
use Rilta\Core\Bake\Channel;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpFoundation\StreamedResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * @phpstan-import-type BakeJson from Bakery
 * @phpstan-import-type UvLayoutJson from Bakery
 */
final class BakeController extends Api
{
    private const MOST_LISTED = 40;

    /** @return Answer<201, BakeJson> */
    #[Needs(Right::Bake)]
    #[Route('/api/projects/{slug}/bakes', methods: ['POST'])]
    public function ask(string $slug, #[MapRequestPayload('json')] BakeOrder $order, Bakery $bakery): Answer
    {
        $project = $this->project($slug);
        $from = $order->material === null ? null : $this->entities->getRepository(MaterialRecord::class)->findOneBy(['project' => $project, 'id' => (int) $order->material]);
        $bake = $bakery->ask($project, $order->document, (int) $order->size, $order->variant, $order->edges, $order->longest, $from, $order->onto, $order->files, $order->green === '+y');

        return new Answer($bakery->describe($bake), Response::HTTP_CREATED);
    }

    /**
     * Those of a material, the latest first.
     *
     * @return Answer<200, list<BakeJson>>
     */
    #[Route('/api/projects/{slug}/bakes', methods: ['GET'])]
    public function list(string $slug, Request $request, Bakery $bakery): Answer
    {
        $project = $this->project($slug);
        $material = $this->entities->getRepository(MaterialRecord::class)->findOneBy(['project' => $project, 'id' => self::whole($request, 'material', 999999999)]) ?? throw Refusal::notFound('such material');

        return new Answer(array_map($bakery->describe(...), $bakery->of($material, self::MOST_LISTED)));
    }

    /** All its files, and the document that it was made from. */
    #[Route('/api/bakes/{id}/files.zip', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function archive(int $id, Bakery $bakery): Response
    {
        $bake = $this->find(Bake::class, $id, 'bake');
        if ($bake->recipe !== null || $bake->state !== BakeState::Done) {
            throw Refusal::notFound("finished files of bake $id");
        }
        $response = new BinaryFileResponse($bakery->archive($bake), 200, ['Content-Type' => 'application/zip']);
        $response->deleteFileAfterSend();

        return $response->setContentDisposition('attachment', "$bake->name.zip");
    }

    #[Needs(Right::Bake)]
    #[Route('/api/bakes/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function delete(int $id, Bakery $bakery): Response
    {
        $bakery->delete($this->find(Bake::class, $id, 'bake'));

        return new Response(null, Response::HTTP_NO_CONTENT);
    }

    /**
     * @return Answer<200, array{
     *     width: float,
     *     height: float,
     *     obstacle: ?string, // why copies of it do not line up
     * }>
     */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/tile', methods: ['POST'])]
    public function tile(string $slug, #[MapRequestPayload('json')] TileQuestion $question, Bakery $bakery): Answer
    {
        $tile = $bakery->tile($this->project($slug), $question->document, $question->variant, $question->longest);

        return new Answer(['width' => $tile->width, 'height' => $tile->height, 'obstacle' => $tile->obstacle]);
    }

    /**
     * How an object lies in one of its sets of UVs.
     *
     * @return Answer<200, UvLayoutJson>
     */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/layout', methods: ['POST'])]
    public function layout(string $slug, #[MapRequestPayload('json')] LayoutQuestion $question, Bakery $bakery): Answer
    {
        return new Answer($bakery->layout($this->project($slug), $question->onto, (int) $question->size));
    }

    /** @return Answer<200, BakeJson> */
    #[Route('/api/bakes/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function show(int $id, Bakery $bakery): Answer
    {
        return new Answer($bakery->describe($this->find(Bake::class, $id, 'bake')));
    }

    /** @return Answer<200, BakeJson> */
    #[Needs(Right::Bake)]
    #[Route('/api/bakes/{id}/cancel', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function cancel(int $id, Bakery $bakery): Answer
    {
        $bake = $this->find(Bake::class, $id, 'bake');
        $bakery->cancel($bake);

        return new Answer($bakery->describe($bake));
    }

    /**
     * Goes on with a bake that has failed.
     *
     * @return Answer<200, BakeJson>
     */
    #[Needs(Right::Bake)]
    #[Route('/api/bakes/{id}/again', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function again(int $id, Bakery $bakery): Answer
    {
        $bake = $this->find(Bake::class, $id, 'bake');
        $bakery->again($bake);

        return new Answer($bakery->describe($bake));
    }

    /** A picture of a channel: as PNG to look at, or as it was asked for. */
    #[Route('/api/bakes/{id}/{channel}.{extension}', methods: ['GET'], requirements: ['id' => '\d{1,9}', 'channel' => '[a-z-]{1,40}', 'extension' => 'png|tga|ktx2'])]
    public function file(int $id, string $channel, string $extension, Request $request, BakeFiles $files): Response
    {
        $bake = $this->find(Bake::class, $id, 'bake');
        $which = Channel::tryFrom($channel);
        if ($which === null || $bake->recipe !== null || $bake->state !== BakeState::Done) {
            throw Refusal::notFound("finished file \"$channel\" of bake $id");
        }
        $name = $extension === 'png' && !$request->query->has('wanted') ? BakeFiles::picture($bake, $which) : BakeFiles::wanted($bake, $which);
        if (!str_ends_with($name, ".$extension") || !$files->has($name)) {
            throw Refusal::notFound("file \"$channel\" of bake $id: no map tells its heights");
        }

        [$stream, $bytes] = $files->stream($name);

        return new StreamedResponse(static function () use ($stream): void {
            fpassthru($stream);
            fclose($stream);
        }, headers: [
            'Content-Type' => ['png' => 'image/png', 'ktx2' => 'image/ktx2'][$extension] ?? 'image/x-tga',
            'Content-Length' => (string) $bytes,
            'Content-Disposition' => HeaderUtils::makeDisposition(HeaderUtils::DISPOSITION_ATTACHMENT, basename($name)),
        ]);
    }
}
