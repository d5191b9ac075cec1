import { expect, test } from './test';
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

/** What README and guide print works as it is printed, from the folder in which it is printed; a server is that of the test. */
const ROOT = fileURLToPath(new URL('../..', import.meta.url));
const commands = ['README.md', 'docs/guide.md'].flatMap((file) =>
	[...readFileSync(ROOT + file, 'utf8').matchAll(/^ {4}(bin\/rilta [^#\n]*)/gm)].map((found) => found[1]!.trim())
);

test('every command that is printed does what it says', () => {
	test.setTimeout(1_800_000);
	expect(commands).toEqual(expect.arrayContaining(['bin/rilta start', 'bin/rilta test', 'bin/rilta backup /tmp/rilta.backup', 'bin/rilta restore /tmp/rilta.backup']));
	const made = commands.flatMap((command) => / (\/tmp\/\S+)/.exec(command)?.[1] ?? []);
	for (const path of made) rmSync(path, { recursive: true, force: true });
	// What was compiled from other code than that of now is not used.
	const compiled = `${ROOT}var/commands/symfony`;
	mkdirSync(compiled, { recursive: true });
	writeFileSync(`${compiled}/older`, '');
	writeFileSync(`${compiled}.stamp`, 'another');
	// The tests are what runs this; all else runs here.
	for (const command of commands.filter((one) => one !== 'bin/rilta test')) {
		expect(execFileSync('bash', ['-c', command.replace('http://127.0.0.1:8420', process.env.RILTA_ADDRESS ?? '')], { cwd: ROOT, encoding: 'utf8', env: { ...process.env, RILTA_PORT: new URL(process.env.RILTA_ADDRESS ?? '').port } }), command).not.toBe('');
	}
	expect(existsSync(`${compiled}/older`)).toBe(false);
	for (const path of made) expect(statSync(path).size, path).toBeGreaterThan(0);
	for (const path of made) rmSync(path, { recursive: true, force: true });
});
