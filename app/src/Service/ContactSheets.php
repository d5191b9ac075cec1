<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\ContactSheet;
use Rilta\App\Entity\MaterialRecord;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\UnreadableMap;

/**
 * Contact sheets are made on the stage, and kept with their material.
 *
 * @phpstan-type ContactSheetJson array{
 *     id: int,
 *     name: string,
 *     made: string,
 *     width: int, // pixels
 *     height: int,
 *     url: string,
 * }
 */
final readonly class ContactSheets
{
    /** Of one material. */
    private const MOST = 200;

    public function __construct(private EntityManagerInterface $entities, private Blobs $blobs, private Quota $quota)
    {
    }

    /**
     * @throws Refusal       if it cannot be kept
     * @throws UnreadableMap if it is no picture
     */
    public function keep(MaterialRecord $material, string $name, string $png): ContactSheet
    {
        $image = ImageFile::fromBytes($png, 'The contact sheet');
        $image->format === 'png' || throw Refusal::malformed('Send a PNG.');
        $image->decodeRaw();
        $this->quota->room($material->project, \strlen($png));
        if (\count($this->of($material)) >= self::MOST) {
            throw Refusal::invalid(\sprintf('%d contact sheets of this material are kept already; delete some.', self::MOST));
        }
        $sheet = new ContactSheet($material, $name, new \DateTimeImmutable(), $this->blobs->put($png), \strlen($png), $image->width, $image->height);
        $this->entities->persist($sheet);
        $this->entities->flush();

        return $sheet;
    }

    /** @return list<ContactSheet> the latest first */
    public function of(MaterialRecord $material): array
    {
        return array_values($this->entities->getRepository(ContactSheet::class)->findBy(['material' => $material], ['id' => 'DESC']));
    }

    public function picture(ContactSheet $sheet): string
    {
        return $this->blobs->get($sheet->sha256, $sheet->name);
    }

    public function rename(ContactSheet $sheet, string $name): void
    {
        $sheet->name = $name;
        $this->entities->flush();
    }

    public function delete(ContactSheet $sheet): void
    {
        $this->entities->remove($sheet);
        $this->entities->flush();
    }

    /** @return ContactSheetJson */
    public static function card(ContactSheet $sheet): array
    {
        return ['id' => $sheet->id(), 'name' => $sheet->name, 'made' => $sheet->made->format(\DATE_ATOM), 'width' => $sheet->width, 'height' => $sheet->height, 'url' => \sprintf('/api/contact-sheets/%d-%s.png', $sheet->id(), substr($sheet->sha256, 0, 12))];
    }
}
