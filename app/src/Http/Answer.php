<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use Symfony\Component\HttpFoundation\JsonResponse;

/**
 * What an action answers as JSON. Its types are what the description of the API says of it: `Answer<201, MaterialJson>`.
 *
 * @template-covariant S of int
 * @template-covariant T
 */
final class Answer extends JsonResponse
{
    /**
     * @param T        $data
     * @param S        $status
     * @param int|null $version of what is answered; whoever changes it says from which
     */
    public function __construct(mixed $data, int $status = self::HTTP_OK, ?int $version = null)
    {
        parent::__construct(null, $status, $version === null ? [] : ['ETag' => "\"$version\""]);
        $this->setEncodingOptions(\JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION);
        $this->setData($data);
    }

    /**
     * What is JSON already.
     *
     * @return self<200, never> of which nobody can tell what it is; tests hold it against what the action says
     */
    public static function text(string $json): self
    {
        /** @var self<200, never> $answer */
        $answer = new self(null);
        $answer->setJson($json);

        return $answer;
    }
}
