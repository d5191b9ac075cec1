<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\Routing\Route;
use Symfony\Component\Routing\RouterInterface;

/**
 * Writes into the description of the API what the code says: its routes, their parameters, and what requests carry. What answers look like
 * stands in the description, and the tests hold every answer against it.
 */
#[AsCommand('openapi', 'Brings the description of the API up to date')]
final class OpenApiCommand extends Command
{
    public function __construct(private readonly RouterInterface $router, private readonly string $file)
    {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $text = $this->described();
        if ($text !== file_get_contents($this->file)) {
            file_put_contents($this->file, $text);
            $output->writeln("$this->file was brought up to date.");
        }

        return Command::SUCCESS;
    }

    /** The description as it should be. */
    public function described(): string
    {
        $api = json_decode((string) file_get_contents($this->file), false, 512, \JSON_THROW_ON_ERROR);
        if (!$api instanceof \stdClass || !$api->paths instanceof \stdClass) {
            throw new \RuntimeException("$this->file: expected a description with paths.");
        }
        $known = (array) $api->paths;
        $paths = [];
        foreach ($this->router->getRouteCollection() as $route) {
            $before = (array) ($known[$route->getPath()] ?? []);
            foreach (array_map(strtolower(...), $route->getMethods()) as $method) {
                $paths[$route->getPath()][$method] = self::operation($route, $before[$method] ?? null);
            }
        }
        ksort($paths);
        $api->paths = $paths;

        return json_encode($api, \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION) . "\n";
    }

    /** @param mixed $before what there was, which knows the answers */
    private static function operation(Route $route, mixed $before): \stdClass
    {
        $operation = $before instanceof \stdClass ? $before : (object) ['summary' => '', 'responses' => ['default' => ['description' => 'not described yet']]];
        $action = $route->getDefault('_controller');
        $class = \is_string($action) ? PayloadSchema::class(new \ReflectionMethod(...explode('::', $action))) : null;
        if ($class !== null) {
            $operation->requestBody = ['required' => true, 'content' => ['application/json' => ['schema' => PayloadSchema::of($class)]]];
        }
        $others = array_filter(\is_array($operation->parameters ?? null) ? $operation->parameters : [], static fn (mixed $one): bool => $one instanceof \stdClass && $one->in !== 'path');
        $operation->parameters = [...self::parameters($route), ...array_values($others)];
        if ($operation->parameters === []) {
            unset($operation->parameters);
        }

        return $operation;
    }

    /** @return list<array<string, mixed>> those of the path */
    private static function parameters(Route $route): array
    {
        $parameters = [];
        foreach ($route->compile()->getPathVariables() as $name) {
            $name = \is_string($name) ? $name : '';
            $parameters[] = ['name' => $name, 'in' => 'path', 'required' => true, 'schema' => ['type' => str_starts_with((string) $route->getRequirement($name), '\\d') ? 'integer' : 'string']];
        }

        return $parameters;
    }
}
