import { describe, expect, it } from 'vitest';
import type { DeliveredFile } from '../api/client';
import { away, called, taken, wanted, weight } from './delivered';
import { namedPlaces } from './places';

const file = (bytes: number, memory?: number): DeliveredFile => ({ path: 'a', sha256: '', bytes, meaning: '', url: '', ...(memory === undefined ? {} : { picture: { width: 1, height: 1, layers: 1, memory } }) });

describe('deliveries', () => {
	it('are weighed on disk and in memory', () => {
		expect(taken([file(10), file(20, 300), file(1, 5)])).toEqual({ disk: 31, memory: 305 });
		expect([weight(0), weight(1023), weight(1024), weight(102.4 * 1024), weight(1.5 * 1024 * 1024)]).toEqual(['0 B', '1023 B', '1.0 KiB', '102 KiB', '1.5 MiB']);
	});
	it('have names as the server makes them: what parted a variant from the rest is not left over', () => {
		expect(called('{material}_{variant}_{role}', 'lamp-glass', 'wet', 'roughness')).toBe('lamp-glass_wet_roughness');
		expect(called('{material}_{variant}_{role}', 'lamp-glass', '', 'roughness')).toBe('lamp-glass_roughness');
		expect(called('{variant}-{role}', 'lamp-glass', '', 'roughness')).toBe('roughness');
	});
	it('say how far a picture is off', () => {
		expect([away({ mean: 0, within: 0 }), away({ mean: 0.248, within: 0.514 }), away({ mean: 0.001, within: 0.002 })]).toEqual(['0', '0.2, within 0.5', '< 0.1, within < 0.1']);
	});
	it('say in words what a profile brings', () => {
		const labels = { language: (name: string) => name.toUpperCase(), format: (name: string) => name };
		expect(wanted({ format: 'rilta-delivery/1', name: 'a', label: 'A', code: ['glsl', 'c'], textures: 'single', maps: 'png', bake: { size: 64, green: '-y' }, glb: { mesh: 'cube', variants: true }, grid: { samples: 16 } }, labels)).toEqual([
			'Code: GLSL, C; its maps as png, one by one', 'Baked images of 64 pixels as png, green of normals downwards', 'The tile on a mesh, as GLB, with its variants', 'A grid of 16 × 16 samples, 1 m apart: heights and layers'
		]);
	});
	it('name places of the document', () => {
		const document = { lanes: [{ name: 'Walls', steps: [] }], layers: [{ name: 'Base' }, { name: 'Moss' }] } as never;
		expect(namedPlaces('the mask (/layers/1/mask/0) does not repeat', document)).toBe('the mask (layer Moss) does not repeat');
		expect(namedPlaces('Turn (/lanes/0/steps/2) does', document)).toBe('Turn (step 3 of the lane Walls) does');
	});
});
