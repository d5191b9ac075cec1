// Runs the text of a kernel, which core/bench/run.php has put beside this file as JavaScript. Prints the seconds of each run.
import { readFileSync, writeFileSync } from 'node:fs';
import kernel from './kernel.mjs';

const beside = (name) => new URL(name, import.meta.url);
const { uniforms, maps, srgb, size, runs } = JSON.parse(readFileSync(beside('input.json'), 'utf8'));
const kinds = { 1: Uint8Array, 2: Uint16Array, 4: Uint32Array };
const texels = Object.fromEntries(Object.entries(maps).map(([name, { file, bytes }]) => [name, new kinds[bytes](Uint8Array.from(readFileSync(file)).buffer)]));
let found = [];
for (let i = 0; i < runs; i++) {
	const start = performance.now();
	found = kernel(uniforms, texels, {}, srgb, 0, 0, size, size);
	console.log(((performance.now() - start) / 1000).toFixed(6));
}
writeFileSync(beside('output'), Uint32Array.from(found.flat()));
