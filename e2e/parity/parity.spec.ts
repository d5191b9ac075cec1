import { NodeIO } from '@gltf-transform/core';
import { KHRMaterialsVariants, KHRTextureTransform, type MappingList, type Transform } from '@gltf-transform/extensions';
import { expect, test, type Page } from '@playwright/test';
import { validateBytes } from 'gltf-validator';
import { read } from 'ktx-parse';
import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { readFileSync, readdirSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import type { Comparison } from '../../web/src/stage/parity';
import type { BlockFile, PictureFile } from './formats';
import type { Languages } from './languages';
import type { Cases, Parity } from './page';
import type { MaterialXCases, MaterialXPage, MaterialXResult } from './materialx';
import type { LightCase, LightComparison } from './light';
import type { RecipeCase } from './recipes';

/** On a border, rounding decides; of everything else the two targets may not differ. */
const MOST_OFF = 0.001;
/**
 * Where no border is near, devices still weigh texels by eight bits, and a map of steps from black to white shows it: as many samples, off by
 * as many times what is near.
 */
const MOST_FAR = 0.0001;
const FARTHEST = 4;
/** Kilometres from the world's origin. */
const DISTANCES = [1, 20, 100];

const file = (name: string): string => fileURLToPath(new URL(`../../var/test/parity/${name}`, import.meta.url));

/** What a document is called near the world's origin. */
const nearly = (name: string): string => name.replace(/, at \d+ km$/, '');

async function compareAll(page: Page, all: Cases): Promise<(Comparison & { name: string; kilometres: number; exact: boolean })[]> {
	await page.goto('about:blank');
	await page.addScriptTag({ path: file('page.js') });
	await page.evaluate((cases) => (window as unknown as Parity).riltaParity.load(cases), { ...all, cases: [] });
	const results = [];
	for (const one of all.cases) {
		const result = await page.evaluate((c) => (window as unknown as Parity).riltaParity.compare(c), one);
		results.push({ ...result, name: one.name, kilometres: one.kilometres ?? 0, exact: one.exact ?? true });
	}
	return results;
}

/** Making shaders keeps one core busy: each worker takes its share of the documents. */
test.describe.configure({ mode: 'parallel' });
const PARTS = 2;

for (let part = 0; part < PARTS; part++) test(`the browser and the kernel compute the same, part ${part + 1} of ${PARTS}`, async ({ page }) => {
	test.setTimeout(1_200_000);
	const all = JSON.parse(readFileSync(file('cases.json'), 'utf8')) as Cases;
	expect(all.cases.length).toBeGreaterThan(300);
	// The same document at several places is the same code, which is compiled once.
	let documents = -1;
	const cases = all.cases.filter((one, i) => (i > 0 && nearly(one.name) === nearly(all.cases[i - 1]!.name) ? documents : ++documents) % PARTS === part);
	const every = await compareAll(page, { ...all, cases });
	for (const result of every) expect(result.error, result.name).toBeNull();
	const tell = (what: string, some: typeof every): { off: number; far: number; shown: number } => {
		const sum = (of: (one: (typeof every)[number]) => number): number => some.reduce((total, one) => total + of(one), 0);
		const [pixels, off, far, shown, shownOff] = [sum((one) => one.pixels), sum((one) => one.off), sum((one) => one.far), sum((one) => one.shown), sum((one) => one.shownOff)];
		console.log(`${what}: ${some.length} documents, ${pixels} stations compared, ${off} off (${((100 * off) / pixels).toFixed(4)} %), ${far} of them further than rounding explains; of ${shown} values ${shownOff} by more than 1/255 (${((100 * shownOff) / shown).toFixed(4)} %)`);
		return { off: off / pixels, far: far / pixels, shown: shownOff / shown };
	};
	for (const kilometres of [0, ...DISTANCES]) {
		const there = every.filter((one) => one.kilometres === kilometres);
		const blurred = there.filter((one) => !one.exact);
		if (blurred.length > 0) tell(`at ${kilometres} km, where the core says that it is not exact`, blurred);
		const results = there.filter((one) => one.exact);
		const found = tell(`at ${kilometres} km`, results);
		for (const result of results) {
			if (result.far > 0 || result.off / result.pixels > MOST_OFF) console.log(`${result.name}: ${result.off} of ${result.pixels} off, ${result.far} far, worst ${JSON.stringify(result.worst)}`);
		}
		expect(results.length).toBeGreaterThan(20);
		expect(found.off).toBeLessThan(MOST_OFF);
		expect(found.far).toBeLessThan(MOST_FAR);
		// Texture units weigh texels by eight bits, which a map of steps from black to white shows: far out it is as near.
		const names = new Set(results.map((one) => nearly(one.name)));
		const near = every.filter((one) => one.kilometres === 0 && names.has(one.name));
		const sum = (of: (one: (typeof every)[number]) => number): number => near.reduce((total, one) => total + of(one), 0);
		expect(near.length).toBe(results.length);
		expect(found.shown).toBeLessThan(MOST_OFF + (1.5 * sum((one) => one.shownOff)) / sum((one) => one.shown));
		for (const result of results) expect(result.worst?.difference ?? 0, `${result.name} ${JSON.stringify(result.worst)}`).toBeLessThan(FARTHEST);
		// No single document may hide behind the others.
		for (const result of results) expect(result.off / result.pixels, `${result.name} ${JSON.stringify(result.worst)}`).toBeLessThan(0.01);
	}
});

for (const language of ['hlsl', 'wgsl'] as const) test(`${language.toUpperCase()} computes the same as the kernel`, async ({ page }) => {
	test.setTimeout(1_500_000);
	const all = JSON.parse(readFileSync(file('cases.json'), 'utf8')) as Cases;
	const cases = all.cases.flatMap(({ code: _, arrays: __, languages, ...rest }) => (languages === undefined ? [] : [{ name: rest.name, languages: { ...rest, ...languages, hlsl: { ...languages.hlsl, code: all.hlsl[rest.name] ?? '' } } as Languages }]));
	expect(cases.length).toBeGreaterThan(process.env.RILTA_PARITY === 'long' ? 450 : 230);
	// Of pages from elsewhere than this machine, or from nowhere, WebGPU knows nothing.
	const server = createServer((_, answer) => answer.setHeader('Content-Type', 'text/html').end('<title>Parity</title>')).listen(0, '127.0.0.1');
	await once(server, 'listening');
	await page.goto(`http://127.0.0.1:${(server.address() as AddressInfo).port}/`);
	await page.addScriptTag({ path: file('page.js') });
	await page.evaluate(([which, points, packs]) => (window as unknown as Parity).riltaParity.speak(which, { points, packs, cases: [], passes: [], hlsl: {} }), [language, all.points, all.packs] as const);
	const said = (one: Languages): Promise<Comparison> => page.evaluate((languages) => (window as unknown as Parity).riltaParity.said(languages), { ...one, [language === 'hlsl' ? 'wgsl' : 'hlsl']: null } as unknown as Languages);
	let [stations, off, far] = [0, 0, 0];
	for (const { name, languages } of cases) {
		const result = await said(languages);
		expect(result.error, name).toBeNull();
		[stations, off, far] = [stations + result.pixels, off + result.off, far + result.far];
		if (result.far > 0) console.log(`${name}: ${result.off} of ${result.pixels} off, ${result.far} far, worst ${JSON.stringify(result.worst)}`);
		expect(result.worst?.difference ?? 0, `${name} ${JSON.stringify(result.worst)}`).toBeLessThan(FARTHEST);
		expect(result.off / result.pixels, name).toBeLessThan(0.01);
	}
	console.log(`${language.toUpperCase()}: ${cases.length} documents, ${stations} stations compared, ${off} off (${((100 * off) / stations).toFixed(4)} %), ${far} of them further than rounding explains`);
	expect(off / stations).toBeLessThan(MOST_OFF);
	expect(far / stations).toBeLessThan(MOST_FAR);
	// A difference is seen.
	const { languages } = cases.find((one) => one.name === 'size, linked')!;
	const wrong = await said({ ...languages, uniforms: { ...languages.uniforms, main_1_size_u: (languages.uniforms.main_1_size_u ?? 1) * 1.01 } });
	expect(wrong.off).toBeGreaterThan(wrong.pixels * 0.05);
	server.close();
});

test('KTX2 files are read by others', async ({ page }) => {
	const { pictures: files } = JSON.parse(readFileSync(file('formats.json'), 'utf8')) as { pictures: PictureFile[] };
	await page.goto('about:blank');
	await page.addScriptTag({ path: file('page.js') });
	const said = (one: PictureFile): Promise<string> => page.evaluate((it) => (window as unknown as Parity).riltaParity.pictureFile(it), one);
	expect(files.length).toBe(12);
	for (const one of files) expect(await said(one), one.name).toBe('');
	const [first] = files;
	expect(await said({ ...first!, levels: [...first!.levels.slice(0, -1), btoa('\0\0\0\0')] })).toContain('differs');
});

test('maps in blocks are unpacked by a device near to what they were', async ({ page }) => {
	test.setTimeout(300_000);
	const { blocks } = JSON.parse(readFileSync(file('formats.json'), 'utf8')) as { blocks: BlockFile[] };
	await page.goto('about:blank');
	await page.addScriptTag({ path: file('page.js') });
	const said = (one: BlockFile): Promise<{ decibels: number; alpha: number } | string> => page.evaluate((it) => (window as unknown as Parity).riltaParity.unpacked(it), one);
	const least: Record<string, number> = {};
	for (const one of blocks) {
		const found = await said(one);
		if (typeof found === 'string') throw new Error(`${one.name}: ${found}`);
		expect(found.decibels, one.name).toBeGreaterThan(one.kind === 'bc7' ? 38 : 40);
		expect(found.alpha, one.name).toBe(0);
		least[one.kind] = Math.min(least[one.kind] ?? 99, found.decibels);
	}
	console.log(`${blocks.length} maps in blocks; the least by kind, in dB: ${JSON.stringify(least)}`);
	expect(Object.keys(least).sort()).toEqual(['bc4', 'bc5', 'bc7']);
	// What is in the wrong place is seen.
	const [one, other] = blocks.filter((it) => it.kind === 'bc7');
	expect((await said({ ...one!, texels: other!.texels }) as { decibels: number }).decibels).toBeLessThan(30);
});

test('GLB files of the demo are without an error or a warning, and others read them', async () => {
	test.setTimeout(300_000);
	const { scenes } = JSON.parse(readFileSync(file('formats.json'), 'utf8')) as { scenes: { name: string; file: string; kind: string }[] };
	expect(scenes.length).toBeGreaterThan(30);
	const io = new NodeIO().registerExtensions([KHRTextureTransform, KHRMaterialsVariants]);
	for (const { name, file: text, kind } of scenes) {
		const bytes = new Uint8Array(Buffer.from(text, 'base64'));
		const { issues } = await validateBytes(bytes, { maxIssues: 20 });
		expect([issues.numErrors, issues.numWarnings], `${name}: ${JSON.stringify(issues.messages)}`).toEqual([0, 0]);
		const root = (await io.readBinary(bytes)).getRoot();
		const [material] = root.listMaterials();
		// Each variant of the document is one that the file can be switched to.
		const { variants = [] } = JSON.parse(readFileSync(fileURLToPath(new URL(`../../demo/materials/${name}.json`, import.meta.url)), 'utf8')) as { variants?: { name: string }[] };
		const mappings = root.listMeshes()[0]!.listPrimitives()[0]!.getExtension<MappingList>('KHR_materials_variants')?.listMappings() ?? [];
		expect(mappings.flatMap((one) => one.listVariants().map((variant) => variant.getName())).sort(), name).toEqual(variants.map((one) => one.name).sort());
		expect(material?.getBaseColorTexture()?.getSize(), name).toEqual([64, 64]);
		expect(material?.getAlphaMode(), name).toBe(({ opaque: 'OPAQUE', 'cut-out': 'MASK', translucent: 'BLEND' } as Record<string, string>)[kind]);
		const transform = material?.getBaseColorTextureInfo()?.getExtension<Transform>('KHR_texture_transform');
		expect(transform?.getScale()[0], name).toBeGreaterThan(0);
		expect(material?.getBaseColorTextureInfo()?.getTexCoord(), name).toBe(2);
	}
	// Objects with what was baked into their UVs: all their triangles, one tangent a vertex, where they stood.
	const { objects } = JSON.parse(readFileSync(file('formats.json'), 'utf8')) as { objects: { name: string; file: string; triangles: number; covered: number; doubled: number }[] };
	expect(objects.length).toBeGreaterThan(12);
	for (const { name, file: text, triangles, covered, doubled } of objects) {
		const bytes = new Uint8Array(Buffer.from(text, 'base64'));
		const { issues } = await validateBytes(bytes, { maxIssues: 20 });
		expect([issues.numErrors, issues.numWarnings], `${name}: ${JSON.stringify(issues.messages)}`).toEqual([0, 0]);
		const root = (await io.readBinary(bytes)).getRoot();
		const primitives = root.listMeshes().flatMap((mesh) => mesh.listPrimitives());
		expect(primitives.reduce((sum, one) => sum + one.getIndices()!.getCount() / 3, 0), name).toBe(triangles);
		expect(primitives[0]!.getAttribute('TANGENT')!.getCount(), name).toBe(primitives[0]!.getAttribute('POSITION')!.getCount());
		expect(root.listMaterials()[0]?.getBaseColorTextureInfo()?.getTexCoord(), name).toBe(1);
		expect(root.listNodes()[0]?.getTranslation(), name).toEqual([1, 2, 3]);
		// The second set covers each ready-made mesh once.
		expect([covered > 0.3, doubled < 0.01], name).toEqual([true, true]);
	}
	// A mistake is seen.
	const broken = new Uint8Array(Buffer.from(Buffer.from(scenes[0]!.file, 'base64').toString('latin1').replace('"texCoord":2', '"texCoord":9'), 'latin1'));
	expect((await validateBytes(broken, {})).issues.numErrors).toBeGreaterThan(0);
});

test('what is handed over under the ready profiles is what its manifests say, for readers that are not ours', async () => {
	test.setTimeout(300_000);
	type Listed = { path: string; sha256: string; bytes: number; picture?: { width: number; height: number; layers: number } };
	const { deliveries } = JSON.parse(readFileSync(file('formats.json'), 'utf8')) as { deliveries: { name: string; manifest: string; files: Record<string, string> }[] };
	expect(deliveries.length).toBe(4 * readdirSync(fileURLToPath(new URL('../../demo/materials/', import.meta.url))).filter((name) => name.endsWith('.json')).length);
	const seen: Record<string, number> = {};
	for (const { name, manifest, files } of deliveries) {
		const { files: listed } = JSON.parse(manifest) as { files: Listed[] };
		expect(listed.map((one) => one.path).sort(), name).toEqual(Object.keys(files).sort());
		for (const { path, sha256, bytes: size, picture } of listed) {
			const bytes = Buffer.from(files[path]!, 'base64');
			expect([createHash('sha256').update(bytes).digest('hex'), bytes.length], `${name}, ${path}`).toEqual([sha256, size]);
			const kind = path.slice(path.lastIndexOf('.') + 1);
			seen[kind] = (seen[kind] ?? 0) + 1;
			const sides = kind === 'png' ? [bytes.readUInt32BE(16), bytes.readUInt32BE(20)] : kind === 'tga' ? [bytes.readUInt16LE(12), bytes.readUInt16LE(14)] : null;
			if (kind === 'ktx2') {
				const container = read(new Uint8Array(bytes));
				expect([container.pixelWidth, container.pixelHeight, Math.max(1, container.layerCount), container.levels.length], `${name}, ${path}`).toEqual([picture!.width, picture!.height, picture!.layers, 1 + Math.floor(Math.log2(Math.max(picture!.width, picture!.height)))]);
			} else if (sides !== null && picture !== undefined) expect(sides, `${name}, ${path}`).toEqual([picture.width, picture.height]);
			else if (kind === 'glb') {
				const { issues } = await validateBytes(new Uint8Array(bytes), { maxIssues: 20 });
				expect([issues.numErrors, issues.numWarnings], `${name}: ${JSON.stringify(issues.messages)}`).toEqual([0, 0]);
			} else if (kind === 'json') expect(() => JSON.parse(bytes.toString()) as unknown, `${name}, ${path}`).not.toThrow();
		}
	}
	console.log(`${deliveries.length} deliveries: ${JSON.stringify(seen)}`);
	expect(Object.keys(seen)).toEqual(expect.arrayContaining(['json', 'hlsl', 'glsl', 'wgsl', 'c', 'ktx2', 'glb', 'png', 'tga', 'mtlx']));
});

test('MaterialX is made of nodes that the standard defines, with the inputs and types that they have there', async ({ page }) => {
	const all = JSON.parse(readFileSync(file('materialx.json'), 'utf8')) as MaterialXCases;
	await page.goto('about:blank');
	await page.addScriptTag({ path: file('materialx.js') });
	const wrong = (document: string): Promise<string[]> => page.evaluate((text) => (window as unknown as MaterialXPage).riltaWrongNodes(text), document);
	expect(all.cases.length).toBeGreaterThan(150);
	for (const one of all.cases) expect(await wrong(one.document), one.name).toEqual([]);
	// What is wrong is found: a node, an input, a type, a word, a number, where something comes from, what is said twice.
	const { document } = all.cases.find((one) => one.document.includes('<place2d'))!;
	for (const [of, to] of [['<place2d', '<place3d'], ['name="pivot"', 'name="centre"'], ['<texcoord name="n0" type="vector2"', '<texcoord name="n0" type="color3"'], ['name="pivot" type="vector2" value="0.0, 1.0"', 'name="pivot" type="vector2" value="0.0"'], ['nodename="n1"', 'nodename="none"'], ['name="n1"', 'name="n0"'], ['version="1.39"', 'version="1.38"'], ['nodegraph="NG_material" output="out_base_color"', 'nodegraph="NG_material" output="out_normal"']] as const) {
		expect(document, of).toContain(of);
		expect(await wrong(document.replace(of, to)), to).not.toEqual([]);
	}
});

test('MaterialX is read by others, and looks as it does here', async ({ page }) => {
	test.setTimeout(600_000);
	const all = JSON.parse(readFileSync(file('materialx.json'), 'utf8')) as MaterialXCases;
	await page.goto('about:blank');
	await page.addScriptTag({ path: file('materialx.js') });
	const look = (one: (typeof all.cases)[number]): Promise<MaterialXResult> => page.evaluate(([it, side, step, size]) => (window as unknown as MaterialXPage).riltaMaterialX(it, side, step, size), [one, all.side, all.step, all.size] as const);
	let [compared, alive] = [0, 0];
	// All of the demo, and every third of the lanes.
	for (const one of all.cases.filter((it, i) => !it.name.startsWith('lane') || i % 3 === 0)) {
		const found = await look(one);
		// Not only read: every node is one of the standard's, with inputs that it has.
		expect([found.errors, found.warnings], one.name).toEqual([[], []]);
		// Where taps meet, others choose the level by what is beside it; where levels are read, they mix them otherwise. Colours are mixed before they are decoded.
		const loose = /mirror|bond|piece|seam|tide-dial|recorder-drum|bronze-gauze|salt-flat-tile/.test(one.name);
		for (const [field, off] of Object.entries(found.off)) {
			if (field === 'baseColour') expect(found.mean[field], `${one.name}, ${field}`).toBeLessThan(0.08);
			else expect(loose ? found.mean[field]! / 10 : off, `${one.name}, ${field}`).toBeLessThan(0.004);
			alive++;
		}
		for (const [channel, off] of Object.entries(found.baked)) expect(off, `${one.name}, ${channel} of the tile`).toBeLessThan(0.004);
		compared += found.compared;
	}
	console.log(`MaterialX: ${compared} values of ${alive} channels that are alive`);
	expect(alive).toBeGreaterThan(150);
	// Another image in the place of one is seen.
	const one = all.cases.find((it) => it.name === 'long-wall')!;
	const [first, second] = Object.keys(one.files).filter((name) => /normal|roughness/.test(name)) as [string, string];
	const wrong = await look({ ...one, files: { ...one.files, [first]: one.files[second]!, [second]: one.files[first]! } });
	expect(wrong.off['roughness']).toBeGreaterThan(0.5);
});

test('every step stands on its own as a pass', async ({ page }) => {
	test.setTimeout(600_000);
	const all = JSON.parse(readFileSync(file('cases.json'), 'utf8')) as Cases;
	await page.goto('about:blank');
	await page.addScriptTag({ path: file('page.js') });
	await page.evaluate((cases) => (window as unknown as Parity).riltaParity.load(cases), { ...all, cases: [], passes: [] });
	for (const stepPass of all.passes) expect(await page.evaluate((one) => (window as unknown as Parity).riltaParity.stepPass(one), stepPass), stepPass.name).toBeNull();
	console.log(`${all.passes.length} passes`);
	expect(all.passes.length).toBeGreaterThan(60);
	expect(await page.evaluate((one) => (window as unknown as Parity).riltaParity.stepPass(one), { ...all.passes[0]!, code: `${all.passes[0]!.code} x` })).not.toBeNull();
});

test('a difference is seen', async ({ page }) => {
	const all = JSON.parse(readFileSync(file('cases.json'), 'utf8')) as Cases;
	const one = all.cases.find((c) => c.name === 'size, linked');
	if (one === undefined) throw new Error('The case is missing.');
	const wrong = { ...one, uniforms: { ...one.uniforms, main_1_size_u: (one.uniforms.main_1_size_u ?? 1) * 1.01 } };
	const [result] = await compareAll(page, { ...all, cases: [wrong] });
	expect(result?.off).toBeGreaterThan((result?.pixels ?? 0) * 0.05);
});

test('the preview of a recipe shows what its bake makes', async ({ page }) => {
	test.setTimeout(600_000);
	const { side, cases } = JSON.parse(readFileSync(file('recipes.json'), 'utf8')) as { side: number; cases: RecipeCase[] };
	await page.goto('about:blank');
	await page.addScriptTag({ path: file('page.js') });
	let samples = 0;
	let off = 0;
	for (const one of cases) {
		const result = await page.evaluate(([s, c]) => (window as unknown as Parity).riltaParity.recipe(s, c), [side, one] as [number, RecipeCase]);
		expect(result.error, one.name).toBeNull();
		expect(result.off / result.samples, `${one.name} ${JSON.stringify(result.worst)}`).toBeLessThan(0.02);
		// Where a value lies right at black or white, rounding decides.
		expect(result.outside, `${one.name}: the share outside`).toBeLessThan(0.02);
		samples += result.samples;
		off += result.off;
		if (result.off > 0) console.log(`${one.name}: ${result.off} of ${result.samples} off, worst ${JSON.stringify(result.worst)}`);
	}
	console.log(`${cases.length} recipes, ${samples} samples compared, ${off} off (${((100 * off) / samples).toFixed(4)} %)`);
	expect(cases.length).toBeGreaterThan(20);
	expect(off / samples).toBeLessThan(MOST_OFF);

	// A difference is seen.
	const [first] = cases;
	const wrong = { ...first!, document: { ...first!.document, relief: 2 * first!.document.relief, seed: first!.document.seed + 1 } };
	const seen = await page.evaluate(([s, c]) => (window as unknown as Parity).riltaParity.recipe(s, c), [side, wrong] as [number, RecipeCase]);
	expect(seen.off).toBeGreaterThan(0.2 * seen.samples);
});

test('what the stage lights and what swatches light is the same', async ({ page }) => {
	const all = JSON.parse(readFileSync(file('light.json'), 'utf8')) as LightCase;
	await page.goto('about:blank');
	await page.addScriptTag({ path: file('page.js') });
	const compare = (one: LightCase): Promise<LightComparison[]> => page.evaluate((c) => (window as unknown as Parity).riltaParity.light(c), one);
	const found = await compare(all);
	expect(found).toHaveLength(4);
	for (const { name, samples, off, worst } of found) {
		console.log(`${name}: ${samples} samples, ${off} off by more than 2 of 255, ${worst} at worst`);
		expect(off, name).toBe(0);
	}
	// A difference is seen.
	const [first] = all.skies;
	const [wrong] = await compare({ ...all, skies: [{ ...first!, fields: { ...first!.fields, sunStrength: [4.5] } }] });
	expect(wrong!.off).toBeGreaterThan(0.1 * wrong!.samples);
});
