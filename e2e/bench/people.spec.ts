import { expect, test } from '@playwright/test';
import { plain, PROJECT } from '../application/bench';

/**
 * Fifty people who edit, two on each material and all of them heard by all: how long saves take, and whether any is lost.
 * A minute; RILTA_PEOPLE_MINUTES says for how long instead.
 */
const ADDRESS = process.env.RILTA_ADDRESS ?? '';
const PEOPLE = 50;
const MINUTES = Number(process.env.RILTA_PEOPLE_MINUTES ?? 1);
/** Milliseconds from one change to the next of one person. */
const PAUSE = [2000, 6000] as const;
/** Of changes, how many are of the structure, and after how many somebody looks at the findings. */
const STRUCTURE = 0.25;
const FINDINGS = 0.15;

type Material = { version: number; document: ReturnType<typeof plain> & { parameters: { id: string; value: number }[] } };
const headers = { 'X-Rilta': '1', 'Content-Type': 'application/json' };
const share = (sorted: number[], of: number): number => Math.round(sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * of))] ?? Number.NaN);

test('fifty people who edit', async () => {
	test.setTimeout(MINUTES * 60_000 + 120_000);
	const stage = ((await (await fetch(`${ADDRESS}/api/projects/${PROJECT}/stage`)).json()) as { document: unknown }).document;
	const ids: number[] = [];
	for (let i = 0; i < PEOPLE / 2; i++) {
		const parameters = ['one', 'two'].map((id) => ({ id, name: id, kind: 'number', value: 0 }));
		const made = await fetch(`${ADDRESS}/api/projects/${PROJECT}/materials`, { method: 'POST', headers, body: JSON.stringify({ document: { ...plain(`Of two ${i}`, [0.5, 0.5, 0.5]), parameters } }) });
		ids.push(((await made.json()) as { id: number }).id);
	}
	const saves: number[] = [];
	const others: number[] = [];
	const wrong: string[] = [];
	let heard = 0;
	const until = Date.now() + MINUTES * 60_000;
	const closing = new AbortController();
	const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
	const asked = async (into: number[], method: string, url: string, body?: unknown, more: Record<string, string> = {}): Promise<unknown> => {
		const from = performance.now();
		const answer = await fetch(ADDRESS + url, { method, headers: { ...headers, ...more }, ...(body === undefined ? {} : { body: JSON.stringify(body) }) });
		const said = (await answer.json()) as unknown;
		into.push(performance.now() - from);
		if (!answer.ok) wrong.push(`${method} ${url}: ${answer.status} ${JSON.stringify(said).slice(0, 200)}`);
		return answer.ok ? said : null;
	};
	/** As browsers listen: a stream that ends is begun again where it ended. */
	const listen = async (url: string): Promise<void> => {
		for (let last = ''; !closing.signal.aborted;) {
			try {
				const stream = await fetch(url, { signal: closing.signal, headers: last === '' ? {} : { 'Last-Event-ID': last } });
				const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
				for (let part = await reader.read(); !part.done; part = await reader.read()) {
					heard += part.value.split('event: material').length - 1;
					last = [...part.value.matchAll(/^id: ?(\S+)$/gm)].at(-1)?.[1] ?? last;
				}
			} catch {
				await wait(500);
			}
		}
	};
	const ends: number[][] = ids.map(() => [0, 0]);
	await Promise.all(Array.from({ length: PEOPLE }, async (_, person) => {
		const [at, mine] = [Math.floor(person / 2), person % 2];
		const id = ids[at]!;
		void listen(`${ADDRESS}/api/projects/${PROJECT}/events?material=${id}&page=bench-${person}`);
		await wait((PAUSE[1] * person) / PEOPLE);
		let known = (await (await fetch(`${ADDRESS}/api/materials/${id}`)).json()) as Material;
		for (let n = 1; Date.now() < until; n++) {
			const document = structuredClone(known.document);
			document.parameters[mine]!.value = n;
			const stored = (await asked(saves, 'PUT', `/api/materials/${id}`, { document, together: true }, { 'If-Match': `"${known.version}"`, 'Idempotency-Key': `bench-${id}-${person}-${n}` })) as Material | null;
			if (stored !== null) [known, ends[at]![mine]] = [stored, n];
			if (Math.random() < STRUCTURE) await asked(others, 'POST', `/api/projects/${PROJECT}/lower`, { document });
			if (Math.random() < FINDINGS) await asked(others, 'POST', `/api/projects/${PROJECT}/findings`, { document, stage, profile: 'middle' });
			await wait(PAUSE[0] + Math.random() * (PAUSE[1] - PAUSE[0]));
		}
	}));
	closing.abort();
	for (const [i, id] of ids.entries()) {
		const { document } = (await (await fetch(`${ADDRESS}/api/materials/${id}`)).json()) as Material;
		expect(document.parameters.map(({ value }) => value), `material ${id}`).toEqual(ends[i]);
	}
	const [sorted, rest] = [saves, others].map((all) => [...all].sort((a, b) => a - b)) as [number[], number[]];
	const line = (name: string, all: number[]): string => `${name}: ${all.length}, half within ${share(all, 0.5)} ms, 95 of 100 within ${share(all, 0.95)} ms, 99 within ${share(all, 0.99)} ms`;
	process.stdout.write(`\n${PEOPLE} people for ${MINUTES} min\n  ${line('saves', sorted)}\n  ${line('code and findings', rest)}\n  each version was heard by ${(heard / saves.length).toFixed(1)} of ${PEOPLE}, ${wrong.length} errors\n`);
	expect(wrong).toEqual([]);
});
