<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use Rilta\App\Service\Refusal;
use Symfony\Component\HttpFoundation\Request;

/** The JSON object that a request carries. */
final readonly class Body
{
    private const MOST_BYTES = 4 * 1024 * 1024;

    /** @param array<array-key, mixed> $data */
    private function __construct(private array $data)
    {
    }

    public static function of(Request $request): self
    {
        // A page of another origin cannot send this type without asking first.
        if ($request->getContentTypeFormat() !== 'json') {
            throw Refusal::malformed('Send application/json.');
        }
        $text = $request->getContent();
        if (\strlen($text) > self::MOST_BYTES) {
            throw Refusal::tooLarge(\sprintf('A request may have %d MiB.', self::MOST_BYTES / 1048576));
        }
        try {
            $data = json_decode($text, true, 64, \JSON_THROW_ON_ERROR);
        } catch (\JsonException $e) {
            throw Refusal::malformed('This is not JSON: ' . $e->getMessage());
        }
        if (!\is_array($data)) {
            throw Refusal::malformed('Send a JSON object.');
        }

        return new self($data);
    }

    public function any(string $name): mixed
    {
        return $this->data[$name] ?? throw $this->missing($name, 'a value');
    }

    /** @return array<array-key, mixed> */
    public function all(): array
    {
        return $this->data;
    }

    public function has(string $name): bool
    {
        return isset($this->data[$name]);
    }

    public function text(string $name, int $longest = 120): string
    {
        $value = $this->data[$name] ?? null;
        if (!\is_string($value) || trim($value) === '' || mb_strlen($value) > $longest || !mb_check_encoding($value, 'UTF-8')) {
            throw $this->missing($name, "1 to $longest characters");
        }

        return trim($value);
    }

    public function number(string $name, float $low, float $high): float
    {
        $value = $this->data[$name] ?? null;
        if ((!\is_int($value) && !\is_float($value)) || $value < $low || $value > $high) {
            throw $this->missing($name, "a number from $low to $high");
        }

        return (float) $value;
    }

    public function flag(string $name): bool
    {
        $value = $this->data[$name] ?? null;

        return \is_bool($value) ? $value : throw $this->missing($name, 'true or false');
    }

    /** @param non-empty-list<string> $choices */
    public function choice(string $name, array $choices): string
    {
        $value = $this->data[$name] ?? null;

        return \is_string($value) && \in_array($value, $choices, true) ? $value : throw $this->missing($name, implode(', ', $choices));
    }

    /** @return list<self> */
    public function objects(string $name, int $most): array
    {
        $value = $this->data[$name] ?? null;
        if (!\is_array($value) || !array_is_list($value) || \count($value) > $most) {
            throw $this->missing($name, "a list of at most $most objects");
        }

        return array_map(fn (mixed $one): self => new self(\is_array($one) ? $one : throw $this->missing($name, 'objects')), $value);
    }

    /** @return list<string> */
    public function texts(string $name, int $most, int $longest = 120): array
    {
        $value = $this->data[$name] ?? null;
        $texts = \is_array($value) ? array_values(array_filter($value, static fn (mixed $one): bool => \is_string($one) && $one !== '' && mb_strlen($one) <= $longest && mb_check_encoding($one, 'UTF-8'))) : [];
        if (!\is_array($value) || !array_is_list($value) || \count($value) > $most || \count($texts) !== \count($value)) {
            throw $this->missing($name, "a list of at most $most texts");
        }

        return $texts;
    }

    /** @return array{float, float, float} */
    public function triple(string $name): array
    {
        $out = [];
        foreach (\is_array($this->data[$name] ?? null) ? $this->data[$name] : [] as $value) {
            if ((!\is_int($value) && !\is_float($value)) || abs($value) > 1e9) {
                throw $this->missing($name, 'three numbers');
            }
            $out[] = (float) $value;
        }

        return \count($out) === 3 ? [$out[0], $out[1], $out[2]] : throw $this->missing($name, 'three numbers');
    }

    private function missing(string $name, string $expected): Refusal
    {
        return Refusal::invalid("\"$name\": expected $expected.", [['path' => '/' . $name, 'message' => "expected $expected"]]);
    }
}
