<?php

declare(strict_types=1);

namespace Rilta\App\Entity;

use Doctrine\ORM\Mapping as ORM;

/**
 * What somebody says of a material: of a point on the stage, a part of the document, or the whole.
 *
 * @phpstan-type CommentPinJson array{
 *     path?: string,
 *     label?: string,
 *     object?: string,
 *     position?: array{float, float, float},
 *     eye?: array{float, float, float, float, float, float}, // where it was, and what it looked at, metres
 *     variant?: string,
 *     trail?: string,
 * }
 */
#[ORM\Entity]
class Comment
{
    use Identified;

    #[ORM\Column]
    public readonly \DateTimeImmutable $at;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $resolvedAt = null;

    /** Who has resolved it. */
    #[ORM\Column(length: 120)]
    public string $resolvedBy = '';

    /** @param CommentPinJson $pin what it is of, as it was then: path, position, object, eye, variant, trail; empty for the whole */
    public function __construct(
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
        public readonly MaterialRecord $material,
        #[ORM\ManyToOne]
        #[ORM\JoinColumn(onDelete: 'SET NULL')]
        public readonly ?Person $person,
        #[ORM\Column(length: 120)]
        public readonly string $who,
        #[ORM\Column(type: 'text')]
        public string $text,
        #[ORM\Column(type: 'json')]
        public readonly array $pin,
        /** what it answers */
        #[ORM\ManyToOne(targetEntity: self::class)]
        #[ORM\JoinColumn(onDelete: 'CASCADE')]
        public readonly ?self $answers,
        /** of the material, as it was then */
        #[ORM\Column]
        public readonly int $version,
    ) {
        $this->at = new \DateTimeImmutable();
    }
}
