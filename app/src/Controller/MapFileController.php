<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MapRecord;
use Rilta\App\Service\Blobs;
use Rilta\App\Service\MapFiles;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

/** The bytes of maps, as files and as devices take them. */
final class MapFileController extends Api
{
    /** The file of the current version, to take elsewhere. */
    #[Route('/api/maps/{id}/file', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function file(int $id, Blobs $blobs): Response
    {
        $map = $this->find(MapRecord::class, $id, 'map');
        $response = new Response($blobs->get($map->image->sha256, $map->name()), Response::HTTP_OK, ['Content-Type' => 'application/octet-stream']);
        $name = basename(str_replace(['\\', '%'], ['/', '_'], $map->image->file));
        $response->headers->set('Content-Disposition', HeaderUtils::makeDisposition(HeaderUtils::DISPOSITION_ATTACHMENT, $name, (string) preg_replace('/[^\x20-\x7E]/', '_', $name)));

        return $response;
    }

    #[Route('/api/maps/{id}/texels-{key}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function texels(int $id, MapFiles $files): Response
    {
        return $this->immutable($files->compressedPath($this->find(MapRecord::class, $id, 'map')), 'application/octet-stream', 'gzip');
    }

    /** The same, small, for the time until the levels have been made. */
    #[Route('/api/maps/{id}/draft-{key}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function draft(int $id, MapFiles $files): Response
    {
        return $this->immutable($files->draftPath($this->find(MapRecord::class, $id, 'map')), 'application/octet-stream', 'gzip');
    }

    #[Route('/api/maps/{id}/thumbnail-{key}.webp', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function thumbnail(int $id, MapFiles $files): Response
    {
        return $this->immutable($files->thumbnailPath($this->find(MapRecord::class, $id, 'map')), 'image/webp');
    }
}
