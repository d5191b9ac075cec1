<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use Rilta\App\Http\Payload\Of;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\Routing\Route;
use Symfony\Component\Routing\RouterInterface;

/**
 * Writes into the description of the API what the code says: its routes, their parameters, what requests carry and what is answered. By hand
 * are the words for each operation, parameters of its query, and files that it answers.
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
        $answers = new AnswerSchema();
        $problem = ['description' => 'What was wrong, with its place', 'content' => ['application/problem+json' => ['schema' => $answers->named('ProblemDetailsJson', ProblemListener::class)]]];
        foreach ($this->router->getRouteCollection() as $route) {
            $before = (array) ($known[$route->getPath()] ?? []);
            foreach (array_map(strtolower(...), $route->getMethods()) as $method) {
                $paths[$route->getPath()][$method] = self::operation($route, $answers, $problem, $before[$method] ?? null);
            }
        }
        ksort($paths);
        $api->paths = $paths;
        $api->components = ['schemas' => $answers->schemas()];

        return json_encode($api, \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION) . "\n";
    }

    /**
     * @param array<string, mixed> $problem what is answered where something was wrong
     * @param mixed                $before  what there was
     */
    private static function operation(Route $route, AnswerSchema $answers, array $problem, mixed $before): \stdClass
    {
        $operation = $before instanceof \stdClass ? $before : (object) ['summary' => 'not described yet', 'responses' => new \stdClass()];
        $action = $route->getDefault('_controller');
        $method = \is_string($action) ? new \ReflectionMethod(...explode('::', $action)) : throw new \LogicException("{$route->getPath()} has no action.");
        $known = (array) $operation->responses;
        $responses = [];
        foreach ($answers->of($method) as $status => $schema) {
            $said = $known[$status] ?? null;
            $responses[$status] = ['description' => $said instanceof \stdClass && \is_string($said->description) ? $said->description : 'OK', 'content' => ['application/json' => ['schema' => $schema]]];
        }
        $operation->responses = ['default' => $problem] + ($responses === [] ? $known : $responses);
        $class = PayloadSchema::class($method);
        if ($class !== null) {
            $operation->requestBody = ['required' => true, 'content' => ['application/json' => ['schema' => PayloadSchema::of($class)]]];
            foreach ((new \ReflectionClass($class))->getProperties() as $property) {
                foreach ($property->getAttributes(Of::class) as $of) {
                    $answers->named($of->newInstance()->schema . AnswerSchema::SUFFIX, $of->newInstance()->from);
                }
            }
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
