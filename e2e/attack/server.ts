/** The instance under attack: its processes, its answers, and what it has said to have stored. */
import { execFileSync, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { fileURLToPath } from 'node:url';

export const ADDRESS = process.env.RILTA_ADDRESS ?? '';
const DATA = process.env.RILTA_DATA ?? '';
const SERVICES = `${DATA}/run/services`;
const REAP = fileURLToPath(new URL('../../ops/reap', import.meta.url));
const PROGRAM = fileURLToPath(new URL('../../bin/rilta', import.meta.url));

export const sha = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
export const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** Ends a service and all its children at once, as a machine without memory does. */
export function kill(service: string, services = SERVICES): void {
	// By its number alone it may be somebody else by now.
	execFileSync(REAP, [`${services}/${service}`]);
}
export const put = (service: string, state: 'up' | 'down'): void => void execFileSync('sv', ['-w', '30', state === 'up' ? 'up' : 'force-stop', `${SERVICES}/${service}`]);

export function rilta(...words: string[]): string {
	return execFileSync(PROGRAM, words, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });
}
/** Begins a command and kills it, with all it has begun, after some milliseconds. */
export async function broken(after: number, ...words: string[]): Promise<void> {
	const child = spawn(PROGRAM, words, { detached: true, stdio: 'ignore' });
	const ended = new Promise((done) => child.once('exit', done));
	await Promise.race([ended, pause(after)]);
	if (child.exitCode === null) process.kill(-child.pid!, 'SIGKILL');
	await ended;
}

export type Answer = { status: number; body: unknown; bytes: Buffer; headers: Headers };
/** What was counted, for the figures at the end. */
export const figures = { requests: 0, files: 0, writes: 0, kills: 0, lost: [] as string[], stuck: [] as string[], broken: [] as string[], refused: 0, late: 0, away: 0 };

/**
 * One request; 0 for no answer. Answers of the kind that no request may cause are noted.
 *
 * @param wounded whether servers are being ended meanwhile, so that 502 to 504 are what has to come
 */
export async function ask(method: string, url: string, body?: BodyInit | object, headers: Record<string, string> = {}, wounded = false): Promise<Answer> {
	const json = body !== undefined && !(typeof body === 'string' || body instanceof FormData || body instanceof Uint8Array);
	figures.requests++;
	let response: Response, bytes: Buffer;
	try {
		response = await fetch(url.startsWith('http') ? url : ADDRESS + url, {
			method,
			body: json ? JSON.stringify(body) : (body as BodyInit | undefined),
			headers: { 'X-Rilta': '1', ...(json || typeof body === 'string' ? { 'Content-Type': 'application/json' } : {}), ...headers },
			signal: AbortSignal.timeout(180_000)
		} as RequestInit);
		bytes = Buffer.from(await response.arrayBuffer());
	} catch (error) {
		if (!wounded) figures.broken.push(`${method} ${url}: ${String(error)}`);
		else figures.away++;
		return { status: 0, body: null, bytes: Buffer.alloc(0), headers: new Headers() };
	}
	// Busy is said as such; everything else of 500 and more is a fault, unless a server was just killed.
	const busy = (response.status === 503 && response.headers.has('Retry-After')) || response.status === 507;
	if (response.status >= 500) {
		if (wounded) figures.away++;
		else if (busy) figures.late++;
		else figures.broken.push(`${response.status} ${method} ${url} ${typeof body === 'string' ? body.slice(0, 300) : JSON.stringify(body ?? null).slice(0, 300)} ${bytes.toString('utf8').slice(0, 200)}`);
	} else if (response.status >= 400) figures.refused++;
	let parsed: unknown = null;
	try {
		parsed = JSON.parse(bytes.toString('utf8'));
	} catch {
		// Images and tables have none; what says that it is JSON is whole, whoever was killed meanwhile.
		if (response.headers.get('Content-Type')?.includes('json') === true) {
			figures.broken.push(`${response.status} ${method} ${url}: ${bytes.length} bytes that are no JSON`);
		}
	}
	return { status: response.status, body: parsed, bytes, headers: response.headers };
}

/** Repeats a request until it is answered by something that is no failure of the server. */
export async function insist(method: string, url: string, body?: BodyInit | object, headers: Record<string, string> = {}): Promise<Answer> {
	for (let i = 0; i < 720; i++) {
		const answer = await ask(method, url, body, headers, true);
		if (answer.status > 0 && answer.status < 500) return answer;
		await pause(250);
	}
	throw new Error(`${method} ${url} was not answered for three minutes.`);
}
