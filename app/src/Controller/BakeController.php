<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Bake;
use Rilta\App\Entity\BakeState;
use Rilta\App\Http\Body;
use Rilta\App\Http\Problem;
use Rilta\App\Service\BakeFiles;
use Rilta\App\Service\Bakery;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Edges;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

final class BakeController extends Api
{
    public const SIZES = [256, 512, 1024, 2048, 4096];

    #[Route('/api/projects/{slug}/bakes', methods: ['POST'])]
    public function ask(string $slug, Request $request, Bakery $bakery): JsonResponse
    {
        $project = $this->project($slug);
        $body = Body::of($request);
        $size = (int) $body->number('size', 1, 8192);
        if (!\in_array($size, self::SIZES, true)) {
            throw Problem::invalid('There is no such size.', [['path' => '/size', 'message' => 'expected one of ' . implode(', ', self::SIZES)]]);
        }
        $edges = $body->has('edges') ? Edges::from($body->choice('edges', array_column(Edges::cases(), 'value'))) : Edges::AsComputed;
        $bake = $bakery->ask($project, $body->any('document'), $size, self::variant($body), $edges, self::longest($body));

        return $this->json($bakery->describe($bake), Response::HTTP_CREATED);
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

    #[Route('/api/bakes/{id}/{channel}.png', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function file(int $id, string $channel, BakeFiles $files): Response
    {
        $bake = $this->find(Bake::class, $id, 'bake');
        $which = Channel::tryFrom($channel);
        if ($which === null || $bake->recipe !== null || $bake->state !== BakeState::Done) {
            throw Problem::notFound("finished file \"$channel\" of bake $id");
        }
        $path = $files->path($bake, $which);
        if (!is_file($path)) {
            throw Problem::notFound("file \"$channel\" of bake $id: no map tells its heights");
        }

        return (new BinaryFileResponse($path, headers: ['Content-Type' => 'image/png']))->setContentDisposition('attachment', basename($path));
    }
}
