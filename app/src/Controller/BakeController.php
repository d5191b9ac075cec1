<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Bake;
use Rilta\App\Entity\BakeState;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Http\Body;
use Rilta\App\Service\BakeFiles;
use Rilta\App\Service\Bakery;
use Rilta\App\Service\Refusal;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Edges;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

final class BakeController extends Api
{
    private const MOST_LISTED = 40;
    public const SIZES = [256, 512, 1024, 2048, 4096];

    #[Route('/api/projects/{slug}/bakes', methods: ['POST'])]
    public function ask(string $slug, Request $request, Bakery $bakery): JsonResponse
    {
        $project = $this->project($slug);
        $body = Body::of($request);
        $size = (int) $body->number('size', 1, 4096);
        if (!\in_array($size, self::SIZES, true)) {
            throw Refusal::invalid('There is no such size.', [['path' => '/size', 'message' => 'expected one of ' . implode(', ', self::SIZES)]]);
        }
        $edges = $body->has('edges') ? Edges::from($body->choice('edges', array_column(Edges::cases(), 'value'))) : Edges::AsComputed;
        $bake = $bakery->ask($project, $body->any('document'), $size, self::variant($body), $edges, self::longest($body), $body->has('material') ? $this->entities->getRepository(MaterialRecord::class)->findOneBy(['project' => $project, 'id' => (int) $body->number('material', 1, 999999999)]) : null);

        return $this->json($bakery->describe($bake), Response::HTTP_CREATED);
    }

    /** Those of a material, the latest first. */
    #[Route('/api/projects/{slug}/bakes', methods: ['GET'])]
    public function list(string $slug, Request $request, Bakery $bakery): JsonResponse
    {
        $project = $this->project($slug);
        $material = $this->entities->getRepository(MaterialRecord::class)->findOneBy(['project' => $project, 'id' => self::whole($request, 'material', 999999999)]) ?? throw Refusal::notFound('such material');

        return $this->json(array_map($bakery->describe(...), $bakery->of($material, self::MOST_LISTED)));
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

    #[Route('/api/bakes/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function delete(int $id, Bakery $bakery): Response
    {
        $bakery->delete($this->find(Bake::class, $id, 'bake'));

        return new Response(null, Response::HTTP_NO_CONTENT);
    }

    #[Route('/api/projects/{slug}/tile', methods: ['POST'])]
    public function tile(string $slug, Request $request, Bakery $bakery): JsonResponse
    {
        $project = $this->project($slug);
        $body = Body::of($request);
        $tile = $bakery->tile($project, $body->any('document'), self::variant($body), self::longest($body));

        return $this->json(['width' => $tile->width, 'height' => $tile->height, 'obstacle' => $tile->obstacle]);
    }

    private static function variant(Body $body): string
    {
        return $body->has('variant') && $body->any('variant') !== '' ? $body->text('variant', 80) : '';
    }

    private static function longest(Body $body): ?float
    {
        return $body->has('longest') ? $body->number('longest', 0.001, 100000.0) : null;
    }

    #[Route('/api/bakes/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function show(int $id, Bakery $bakery): JsonResponse
    {
        return $this->json($bakery->describe($this->find(Bake::class, $id, 'bake')));
    }

    #[Route('/api/bakes/{id}/cancel', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function cancel(int $id, Bakery $bakery): JsonResponse
    {
        $bake = $this->find(Bake::class, $id, 'bake');
        $bakery->cancel($bake);

        return $this->json($bakery->describe($bake));
    }

    /** Goes on with a bake that has failed. */
    #[Route('/api/bakes/{id}/again', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function again(int $id, Bakery $bakery): JsonResponse
    {
        $bake = $this->find(Bake::class, $id, 'bake');
        $bakery->again($bake);

        return $this->json($bakery->describe($bake));
    }

    #[Route('/api/bakes/{id}/{channel}.png', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function file(int $id, string $channel, BakeFiles $files): Response
    {
        $bake = $this->find(Bake::class, $id, 'bake');
        $which = Channel::tryFrom($channel);
        if ($which === null || $bake->recipe !== null || $bake->state !== BakeState::Done) {
            throw Refusal::notFound("finished file \"$channel\" of bake $id");
        }
        $path = $files->path($bake, $which);
        if (!is_file($path)) {
            throw Refusal::notFound("file \"$channel\" of bake $id: no map tells its heights");
        }

        return (new BinaryFileResponse($path, headers: ['Content-Type' => 'image/png']))->setContentDisposition('attachment', basename($path));
    }
}
