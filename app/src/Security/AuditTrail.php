<?php

declare(strict_types=1);

namespace Rilta\App\Security;

use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\App\Service\Audit;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpKernel\Event\ResponseEvent;

/** Notes what was changed in projects, and by whom. What only computes changes nothing. */
final readonly class AuditTrail
{
    public function __construct(private Audit $audit, private Security $security)
    {
    }

    #[AsEventListener]
    public function note(ResponseEvent $event): void
    {
        $request = $event->getRequest();
        $project = $request->attributes->get(Access::PROJECT);
        $changes = $request->attributes->get(Access::CHANGES) === true;
        if (!$event->isMainRequest() || !$changes || !$event->getResponse()->isSuccessful() || !$project instanceof Project) {
            return;
        }
        $route = $request->attributes->get('_route');
        $person = $this->security->getUser();
        $this->audit->note($project, $person instanceof Person ? $person : null, $person instanceof Person ? $person->name : 'Whoever is at this machine', self::text($request->getMethod(), \is_string($route) ? $route : ''), substr($request->getPathInfo(), 5), (string) $request->getClientIp());
    }

    /** As people say it: "material: save" of rilta_app_material_save. */
    private static function text(string $method, string $route): string
    {
        $words = explode('_', (string) preg_replace('/^rilta_app_/', '', $route), 2);

        return isset($words[1]) ? "$words[0]: " . str_replace('_', ' ', strtolower((string) preg_replace('/(?<=[a-z])[A-Z]/', ' $0', $words[1]))) : $method;
    }
}
