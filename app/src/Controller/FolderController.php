<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\FolderChange;
use Rilta\App\Http\Payload\FolderFiles;
use Rilta\App\Http\Payload\FolderQuestion;
use Rilta\App\Security\Access;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Blobs;
use Rilta\App\Service\ProjectFolder;
use Rilta\App\Service\ProjectTexts;
use Rilta\App\Service\Quota;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\SameZip;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Json\JsonObject;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * A project as the texts of a folder, for the command line on another machine, where it is merged.
 *
 * @phpstan-import-type FolderNumbersJson from ProjectTexts
 * @phpstan-import-type FolderTextsJson from ProjectTexts
 */
final class FolderController extends Api
{
    /** Of files in one answer. */
    private const MOST_BYTES = 128 * 1024 * 1024;

    /**
     * What the project says.
     *
     * @return Answer<200, array{
     *     says: FolderTextsJson,
     *     numbers: FolderNumbersJson,
     *     files: JsonObject<string>, // what the files are called that it needs, by their SHA-256
     *     state: string, // to be sent with a change
     * }>
     */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/folder', methods: ['POST'])]
    public function says(string $slug, Request $request, #[MapRequestPayload('json')] FolderQuestion $question, ProjectTexts $texts): Answer
    {
        [$says, $numbers, $files] = $texts->of($this->project($slug), ...self::asked($request));

        /** @var FolderTextsJson $said */
        $said = (array) $says;
        /** @var FolderNumbersJson $known */
        $known = (array) $numbers;

        return new Answer(['says' => $said, 'numbers' => $known, 'files' => new JsonObject($files), 'state' => self::state($says)]);
    }

    /** Files that it needs, in a ZIP file, each called by its SHA-256: the first of those that are asked for, as many as are not too much at once. */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/folder/files', methods: ['POST'])]
    public function files(string $slug, #[MapRequestPayload('json')] FolderFiles $wanted, ProjectTexts $texts, Blobs $blobs): Response
    {
        [, , $files] = $texts->of($this->project($slug), new \stdClass(), new \stdClass());
        $sent = [];
        $size = 0;
        foreach ($wanted->files as $sha) {
            $bytes = isset($files[$sha]) ? $blobs->get($sha, $files[$sha]) : throw Refusal::notFound("file $sha in this project");
            $size += \strlen($bytes);
            if ($sent !== [] && $size > self::MOST_BYTES) {
                break;
            }
            $sent[$sha] = static fn (): string => $bytes;
        }
        $path = sys_get_temp_dir() . '/rilta-folder-' . bin2hex(random_bytes(8)) . '.zip';
        SameZip::write($path, $sent);
        $response = new BinaryFileResponse($path, 200, ['Content-Type' => 'application/zip']);
        $response->deleteFileAfterSend();

        return $response;
    }

    /** Brings a file that a change will need. */
    #[Needs(Right::Write)]
    #[Route('/api/projects/{slug}/folder/files/{sha}', methods: ['PUT'], requirements: ['sha' => '[0-9a-f]{64}'])]
    public function bring(string $slug, string $sha, Request $request, Blobs $blobs, Quota $quota): Response
    {
        $bytes = $request->getContent();
        if (\strlen($bytes) > ImageFile::MOST_BYTES) {
            throw Refusal::tooLarge(\sprintf('A file may have %d MiB.', ImageFile::MOST_BYTES / 1048576));
        }
        if (hash('sha256', $bytes) !== $sha) {
            throw Refusal::malformed('The file did not arrive whole: it is not what it is called by.');
        }
        $quota->room($this->project($slug), \strlen($bytes));
        $blobs->put($bytes);

        return new Response(status: Response::HTTP_NO_CONTENT);
    }

    /**
     * Changes what the project says: all of it or nothing.
     *
     * @return Answer<200, array{numbers: FolderNumbersJson}>
     */
    #[Needs(Right::Write)]
    #[Route('/api/projects/{slug}/folder', methods: ['PUT'])]
    public function change(string $slug, Request $request, #[MapRequestPayload('json')] FolderChange $change, ProjectTexts $texts, Access $access): Answer
    {
        $project = $this->project($slug);
        $changes = self::object($request, 'changes');
        foreach (array_keys((array) $changes) as $kind) {
            if (!\in_array($kind, [...ProjectFolder::SINGLE, ...ProjectFolder::KINDS], true)) {
                throw Refusal::invalid("There is no \"$kind\" in a project.", [['path' => "/changes/$kind", 'message' => 'expected ' . implode(', ', [...ProjectFolder::SINGLE, ...ProjectFolder::KINDS])]]);
            }
        }
        $numbers = $texts->alone($project, static function () use ($project, $request, $change, $changes, $texts, $access): \stdClass {
            [$now, $numbers] = $texts->of($project, ...self::asked($request));
            if (self::state($now) !== $change->state) {
                throw Refusal::taken('The project was changed since it was asked for; ask for it again, and merge.');
            }
            $said = ProjectTexts::with($now, $changes);
            $name = static fn (\stdClass $of): array => array_intersect_key((array) ProjectFolder::part($of, 'project'), ['name' => true, 'about' => true]);
            if ($name($now) !== $name($said) && !$access->may($request, $project, Right::Own)) {
                throw Refusal::forbidden('Only whoever owns the project may call it otherwise or say what it is about, and in the browser alone.');
            }

            // Files were brought before, if there are any.
            return $texts->store($project, $now, $said, $numbers, new ProjectFolder('/dev/null'), $now);
        });

        /** @var FolderNumbersJson $known */
        $known = (array) $numbers;

        return new Answer(['numbers' => $known]);
    }

    private static function state(\stdClass $says): string
    {
        return hash('sha256', ProjectFolder::text($says));
    }

    /** @return array{\stdClass, \stdClass} numbers that are known, and keys that are taken, by kind */
    private static function asked(Request $request): array
    {
        $taken = new \stdClass();
        foreach ((array) self::object($request, 'taken') as $kind => $keys) {
            $taken->{$kind} = (object) array_fill_keys(\is_array($keys) ? array_filter($keys, is_string(...)) : [], true);
        }

        return [self::object($request, 'known'), $taken];
    }

    /** A part of the request as it was written: what is empty is a list or none. */
    private static function object(Request $request, string $part): \stdClass
    {
        $body = json_decode($request->getContent());
        $found = $body instanceof \stdClass ? $body->{$part} ?? null : null;

        return match (true) {
            $found instanceof \stdClass => $found,
            $found === null, $found === [] => new \stdClass(),
            default => throw Refusal::invalid("\"$part\": expected an object.", [['path' => "/$part", 'message' => 'expected an object']]),
        };
    }
}
