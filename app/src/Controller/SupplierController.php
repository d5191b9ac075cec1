<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\WareOrder;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Importer;
use Rilta\App\Service\Supplier;
use Rilta\Core\Format\ImageFile;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * @phpstan-import-type LookedJson from Importer
 * @phpstan-import-type WaresJson from Supplier
 */
final class SupplierController extends Api
{
    /** @return Answer<200, WaresJson> */
    #[Needs(Right::SignedIn)]
    #[Route('/api/supplier/wares', methods: ['GET'])]
    public function wares(Request $request, Supplier $supplier): Answer
    {
        return new Answer($supplier->wares(self::said($request, 'words'), self::said($request, 'kind'), self::whole($request, 'side', ImageFile::LARGEST_SIDE), max(1, self::whole($request, 'page', 9999))));
    }

    #[Needs(Right::SignedIn)]
    #[Route('/api/supplier/wares/{ware}/preview.png', methods: ['GET'], requirements: ['ware' => '[a-z0-9-]{1,60}'])]
    public function preview(string $ware, Supplier $supplier): Response
    {
        return (new Response($supplier->preview($ware), 200, ['Content-Type' => 'image/png']))->setPublic()->setMaxAge(3600);
    }

    /**
     * Looks at a ware as at an uploaded archive; it is kept like one.
     *
     * @return Answer<201, LookedJson>
     */
    #[Route('/api/projects/{slug}/wares', methods: ['POST'])]
    public function fetch(string $slug, #[MapRequestPayload('json')] WareOrder $order, Supplier $supplier): Answer
    {
        return new Answer($supplier->fetch($this->project($slug), trim($order->ware), (int) $order->side), Response::HTTP_CREATED);
    }
}
