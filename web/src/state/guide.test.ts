import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { entries, entryFor, searched } from './guide';

const SOURCE = `# User guide

## Start
\`bin/rilta start\` prints an address.

## Workbench
- **Probe**: click a point.
  It reads *its trail*.
- **Other steps**: *Size*, *Turn* & more:
  - one
  - two

Ctrl+K lists all.
`;

describe('the guide', () => {
	const all = entries(SOURCE);

	it('comes apart at its headings and the names in its lists', () => {
		expect(all.map((one) => `${one.part}: ${one.title}`)).toEqual(['Start: Start', 'Workbench: Probe', 'Workbench: Other steps', 'Workbench: Ctrl+K lists all.']);
		expect(all[1]!.html).toContain('<em>its trail</em>');
		expect(all[2]!.html).toContain('<li>one</li>');
		expect(all[2]!.text).toContain('Size, Turn & more');
	});

	it('is searched by the beginnings of words, and what is called so comes first', () => {
		expect(searched(all, 'poi cli').map((one) => one.title)).toEqual(['Probe']);
		expect(searched(all, 'steps')[0]!.title).toBe('Other steps');
		expect(searched(all, 'oint')).toEqual([]);
		expect(searched(all, '')).toHaveLength(4);
		expect(searched(all, '(')).toEqual([]);
	});

	it('knows where something is told of', () => {
		expect(entryFor(all, 'probe')!.title).toBe('Probe');
		expect(entryFor(all, 'Size')!.title).toBe('Other steps');
		expect(entryFor(all, 'Nothing of the kind')).toBeUndefined();
	});

	it('has a place for every step, and for what is on the stage', () => {
		const real = entries(readFileSync(new URL('../../../docs/guide.md', import.meta.url), 'utf8'));
		expect(real.length).toBeGreaterThan(40);
		for (const name of ['Origin', 'Choose', 'Size', 'Turn', 'Shift', 'Mirror', 'Pan', 'Reach', 'Frames', 'Cell', 'Place', 'Scatter', 'Breakup', 'Hex blend', 'Scales', 'Bond', 'Warp', 'Mask', 'Finish', 'Painting', 'Light', 'Stage', 'Bake']) {
			expect(entryFor(real, name)?.html, name).toMatch(new RegExp(`<(em|strong)>${name}`));
		}
	});
});
