<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Membership;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Role;
use Rilta\App\Entity\ShareLink;
use Symfony\Component\DependencyInjection\Attribute\Autowire;
use Symfony\Component\Mailer\MailerInterface;
use Symfony\Component\Mime\Email;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;
use Symfony\Component\Validator\Constraints\NotCompromisedPassword;
use Symfony\Component\Validator\Validator\ValidatorInterface;

/** Accounts, and who is what in which project. */
final readonly class People
{
    public const SHORTEST_PASSWORD = 12;
    public const LONGEST_PASSWORD = 128;
    public const MOST_OF_PROJECT = 500;
    public const MOST_LINKS = 50;
    /** Hours that links count. */
    private const INVITED = 14 * 24;
    private const FORGOTTEN = 2;
    private const FROM = 'rilta@localhost';

    /** @param string $common list of passwords that everybody tries first */
    public function __construct(
        private EntityManagerInterface $entities,
        private SignIns $signIns,
        private UserPasswordHasherInterface $hasher,
        private MailerInterface $mailer,
        #[Autowire('%env(RILTA_ADDRESS)%')]
        private string $address,
        #[Autowire('%kernel.project_dir%/config/common-passwords.txt')]
        private string $common,
        private ValidatorInterface $validator,
        #[Autowire('%env(RILTA_LEAKED_PASSWORDS)%')]
        private string $leaked,
    ) {
    }

    /** Addresses are compared in small letters. */
    public static function normal(string $email): string
    {
        return mb_strtolower(trim($email));
    }

    /** Whoever looks after the server: the first person, made with the first start. */
    public function first(): Person
    {
        $first = $this->entities->getRepository(Person::class)->findOneBy(['administrator' => true], ['id' => 'ASC']);
        if ($first === null) {
            $first = new Person('owner@localhost', 'Owner');
            $first->administrator = true;
            $this->entities->persist($first);
            $this->entities->flush();
        }

        return $first;
    }

    /** Projects that nobody owns, as those of the first day and of the command line, are the first person's. */
    public function adopt(): void
    {
        $this->entities->getConnection()->executeStatement(
            "INSERT INTO membership (project_id, person_id, role) SELECT p.id, ?, 'owner' FROM project p WHERE NOT EXISTS (SELECT 1 FROM membership m WHERE m.project_id = p.id AND m.role = 'owner')
             ON DUPLICATE KEY UPDATE role = 'owner'",
            [$this->first()->id()],
        );
    }

    /** Whether nobody but the first person was ever here, and that one never chose a password. */
    public function isFresh(): bool
    {
        return $this->entities->getConnection()->fetchOne('SELECT COUNT(*) FROM person WHERE NOT guest AND (NOT administrator OR password IS NOT NULL)') === 0;
    }

    /** @return string a link that signs the first person in once */
    public function ownersLink(): string
    {
        return $this->linkOf($this->signIns->link($this->first(), self::FORGOTTEN));
    }

    public function owns(Person $person, Project $project): void
    {
        $this->entities->persist(new Membership($project, $person, Role::Owner));
        $this->entities->flush();
    }

    /** @return list<Membership> by name */
    public function of(Project $project): array
    {
        $all = $this->entities->getRepository(Membership::class)->findBy(['project' => $project]);
        usort($all, static fn (Membership $a, Membership $b): int => [$a->person->name, $a->person->id()] <=> [$b->person->name, $b->person->id()]);

        return $all;
    }

    /**
     * Makes somebody a member, and sends them a link; who has an account already is told.
     *
     * @throws Refusal if they are one already, or there are too many
     */
    public function invite(Project $project, string $email, string $name, Role $role, string $by): Membership
    {
        $all = $this->of($project);
        if (\count($all) >= self::MOST_OF_PROJECT) {
            throw Refusal::tooMany(\sprintf('%d people are as many as a project may have.', self::MOST_OF_PROJECT));
        }
        $email = self::normal($email);
        $person = $this->entities->getRepository(Person::class)->findOneBy(['email' => $email]);
        if ($person === null) {
            $person = new Person($email, trim($name) === '' ? explode('@', $email)[0] : trim($name));
            $this->entities->persist($person);
        }
        foreach ($all as $one) {
            if ($one->person === $person) {
                throw Refusal::invalid("{$person->name} is in this project already.", [['path' => '/email', 'message' => 'expected somebody who is not in it yet']]);
            }
        }
        $membership = new Membership($project, $person, $role);
        $this->entities->persist($membership);
        $this->entities->flush();
        $link = $person->password === null ? $this->linkOf($this->signIns->link($person, self::INVITED)) : "$this->address/$project->slug";
        $this->send($email, "$project->name, in Rilta", "$by has made you " . ($role === Role::Owner || $role === Role::Editor ? 'an ' : 'a ') . "$role->value of the project “{$project->name}”.\n\n$link\n\n" . ($person->password === null ? 'The link counts once, for two weeks. Choose a password then.' : 'Sign in as you always do.'));

        return $membership;
    }

    public function change(Membership $membership, Role $role): void
    {
        $this->notTheLast($membership, $role);
        $membership->role = $role;
        $this->entities->flush();
    }

    public function leave(Membership $membership): void
    {
        $this->notTheLast($membership, null);
        $this->entities->remove($membership);
        $this->entities->flush();
    }

    /** @return list<ShareLink> the latest first */
    public function links(Project $project): array
    {
        return $this->entities->getRepository(ShareLink::class)->findBy(['project' => $project], ['id' => 'DESC']);
    }

    /**
     * A link for guests: whoever has it looks, or says something as well.
     *
     * @return array{ShareLink, string} and the link itself, this once
     */
    public function share(Project $project, string $name, Role $role, int $days, string $path): array
    {
        if (\count($this->links($project)) >= self::MOST_LINKS) {
            throw Refusal::tooMany(\sprintf('%d links are as many as a project may have. Take one back.', self::MOST_LINKS));
        }
        $secret = Secret::make();
        $until = (new \DateTimeImmutable())->modify("+$days days");
        // A name that no mail ever reaches (RFC 2606).
        $guest = new Person(hash('xxh128', $secret) . '@guest.invalid', $name);
        $guest->guest = true;
        $guest->closedAt = $until;
        $link = new ShareLink($project, $guest, Secret::hash($secret), $until, $path);
        $this->entities->persist($guest);
        $this->entities->persist(new Membership($project, $guest, $role));
        $this->entities->persist($link);
        $this->entities->flush();

        return [$link, "$this->address/look#$secret"];
    }

    /** Takes a link back: whoever came by it is out. */
    public function unshare(ShareLink $link): void
    {
        $this->entities->remove($link->guest);
        $this->entities->flush();
    }

    /** Tells those members whose names are in a text, after an @, that they are. */
    public function mention(Project $project, string $text, string $by, string $path): void
    {
        foreach ($this->of($project) as $one) {
            if (!$one->person->guest && $one->person->name !== $by && mb_stripos($text, "@{$one->person->name}") !== false) {
                $this->send($one->person->email, "$by has mentioned you", "$by says in $project->name:\n\n$text\n\n$this->address$path");
            }
        }
    }

    /** @throws Refusal if nobody has this address */
    public function with(string $email): Person
    {
        return $this->entities->getRepository(Person::class)->findOneBy(['email' => self::normal($email), 'guest' => false])
            ?? throw Refusal::invalid("Nobody has the address $email.", [['path' => '/email', 'message' => 'expected the address of somebody here']]);
    }

    /** Sends a link to whoever has this address; nobody learns whether somebody has. */
    public function forgotten(string $email): void
    {
        $person = $this->entities->getRepository(Person::class)->findOneBy(['email' => self::normal($email), 'guest' => false]);
        if ($person !== null && !$person->isClosed()) {
            $this->send($person->email, 'Your way back into Rilta', "Somebody, you it is to be hoped, has asked for a way back in.\n\n{$this->linkOf($this->signIns->link($person, self::FORGOTTEN))}\n\nThe link counts once, for two hours. Choose another password then. If it was not you, do nothing.");
        }
    }

    /**
     * @throws Refusal if it is too short, or one that everybody tries first
     */
    public function choose(Person $person, string $password): void
    {
        $wrong = $this->objection($person, $password);
        if ($wrong !== null) {
            throw Refusal::invalid('This password does not do.', [['path' => '/password', 'message' => $wrong]]);
        }
        $person->password = $this->hasher->hashPassword($person, $password);
        $this->entities->flush();
    }

    public function isTheirs(Person $person, string $password): bool
    {
        return $person->password !== null && $this->hasher->isPasswordValid($person, $password);
    }

    /** What is wrong with a password, or null (NIST SP 800-63B, 5.1.1.2: length and known ones, no rules of kinds of letters). */
    private function objection(Person $person, string $password): ?string
    {
        $small = mb_strtolower($password);
        $plain = (string) preg_replace('/[^\p{L}\p{N}]+/u', '', $small);

        return match (true) {
            mb_strlen($password) < self::SHORTEST_PASSWORD => \sprintf('expected at least %d characters', self::SHORTEST_PASSWORD),
            mb_strlen($password) > self::LONGEST_PASSWORD => \sprintf('expected at most %d characters', self::LONGEST_PASSWORD),
            \count(array_unique(mb_str_split($small))) < 5 => 'expected more than four different characters',
            self::isOfAddress($small, self::normal($person->email)) => 'expected something without your address in it',
            \in_array($small, $this->common(), true) || \in_array($plain, $this->common(), true) => 'expected one that is not among those that everybody tries first',
            $this->isLeaked($password) => 'expected one that is in no list of passwords that were stolen somewhere',
            default => null,
        };
    }

    /** Asked by the first five signs of a hash alone, where a list is configured; one that does not answer keeps nobody from choosing. */
    private function isLeaked(string $password): bool
    {
        return $this->leaked !== '' && \count($this->validator->validate($password, new NotCompromisedPassword(skipOnError: true))) > 0;
    }

    /** Whether a password is an address, or what stands before its sign, where that is long enough to be told from words. */
    private static function isOfAddress(string $password, string $email): bool
    {
        $name = explode('@', $email)[0];

        return str_contains($password, $email) || (mb_strlen($name) > 3 && str_contains($password, $name));
    }

    /** @return list<string> */
    private function common(): array
    {
        return file($this->common, \FILE_IGNORE_NEW_LINES | \FILE_SKIP_EMPTY_LINES) ?: [];
    }

    private function notTheLast(Membership $membership, ?Role $role): void
    {
        $owners = array_filter($this->of($membership->project), static fn (Membership $one): bool => $one->role === Role::Owner);
        if ($membership->role === Role::Owner && $role !== Role::Owner && \count($owners) === 1) {
            throw Refusal::invalid('A project needs an owner: make somebody else one first.', [['path' => '/role', 'message' => 'expected owner']]);
        }
    }

    private function linkOf(string $secret): string
    {
        // Behind the number sign it is in no log.
        return "$this->address/sign-in#$secret";
    }

    private function send(string $to, string $subject, string $text): void
    {
        $this->mailer->send((new Email())->from(self::FROM)->to($to)->subject($subject)->text("$text\n"));
    }
}
