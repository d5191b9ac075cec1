<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;
use Rilta\Core\Check\Measures;

/**
 * An image file and what is known of it. Its bytes are addressed by their SHA-256. Never changed, but not readonly: a number that the
 * database gives back in another last digit could not be refreshed.
 */
#[ORM\Embeddable]
final class MapImage
{
    public function __construct(
        /** as it was called when it came */
        #[ORM\Column(length: 255)]
        public string $file,
        #[ORM\Column(length: 64)]
        public string $sha256,
        #[ORM\Column]
        public int $bytes,
        #[ORM\Column]
        public int $width,
        #[ORM\Column]
        public int $height,
        /** mean step across the border divided by the mean step inside; near 1 is seamless */
        #[ORM\Column]
        public float $edgeSeam,
        /** JSON of Check\Measures; null for maps that came before it was taken */
        #[ORM\Column(type: 'text', length: 4294967295, nullable: true)]
        public ?string $measures,
        /** whether a sample has 16 bits */
        #[ORM\Column]
        public bool $deep,
        /** whether the file has alpha */
        #[ORM\Column]
        public bool $alpha,
        /** how it came: "" if it was imported, else what was done */
        #[ORM\Column(length: 200)]
        public string $made = '',
    ) {
    }

    /** The same image once more. */
    public function again(string $made): self
    {
        return new self($this->file, $this->sha256, $this->bytes, $this->width, $this->height, $this->edgeSeam, $this->measures, $this->deep, $this->alpha, $made);
    }

    public function measures(): ?Measures
    {
        $data = $this->measures === null ? null : json_decode($this->measures, true);

        return \is_array($data) ? Measures::fromArray($data) : null;
    }
}
