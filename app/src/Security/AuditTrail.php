<?php

declare(strict_types=1);

namespace Rilta\App\Security;

use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\App\Service\Audit;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpKernel\Event\ResponseEvent;

/** Notes what was changed in projects and accounts, and by whom. What only computes changes nothing. */
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
        $controller = $request->attributes->get('_controller');
        $controller = \is_string($controller) ? $controller : '';
        $person = $this->security->getUser();
        // Accounts are of no project.
        $account = $person instanceof Person && str_contains($controller, '\\AccountController::');
        if (!$event->isMainRequest() || !$changes || !$event->getResponse()->isSuccessful() || (!$project instanceof Project && !$account)) {
            return;
        }
        $this->audit->note($project instanceof Project ? $project : null, $person instanceof Person ? $person : null, $person instanceof Person ? $person->name : 'Whoever is at this machine', self::text($controller), substr($request->getPathInfo(), 5), (string) $request->getClientIp());
    }

    /** As people say it: "material: bring back" of MaterialController::bringBack. */
    private static function text(string $controller): string
    {
        preg_match('/(\w+)Controller::(\w+)$/D', $controller, $found);
        $words = static fn (string $name): string => strtolower((string) preg_replace('/(?<=[a-z])[A-Z]/', ' $0', $name));

        return $words($found[1] ?? '') . ': ' . $words($found[2] ?? '');
    }
}
