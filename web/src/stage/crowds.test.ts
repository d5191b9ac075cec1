import { BufferGeometry, Float32BufferAttribute, Mesh, Object3D, type InstancedMesh } from 'three';
import { describe, expect, it } from 'vitest';
import { CROWD, Crowds, toldOfMany } from './crowds';

const shared = new BufferGeometry().setAttribute('position', new Float32BufferAttribute([0, 0, 0, 1, 0, 0, 0, 1, 0], 3));
shared.setIndex([0, 1, 2]);
function objects(count: number, far = 0): Mesh[] {
	return Array.from({ length: count }, (_, i) => {
		const mesh = new Mesh(shared);
		mesh.position.set(far + i, 0, 0);
		mesh.updateMatrixWorld();
		Object.assign(mesh.userData, { seed: i + 1, value: i / 10, wears: null, variant: '' });
		return mesh;
	});
}
const drawn = (crowds: Crowds): InstancedMesh[] => [...crowds.values()].map(({ mesh }) => mesh as InstancedMesh);

describe('a crowd', () => {
	it('is drawn at once from so many on, each with its own place, seed and value', () => {
		const scene = new Object3D();
		const crowds = new Crowds(scene, () => {});
		const few = objects(CROWD - 1);
		expect(crowds.group(few, () => 'alike')).toBe(false);
		expect(drawn(crowds)).toEqual([]);
		const many = objects(CROWD + 2);
		expect(crowds.group(many, () => 'alike')).toBe(true);
		const [one] = drawn(crowds);
		expect([one!.count, one!.geometry.index === shared.index]).toEqual([CROWD + 2, true]);
		expect([...one!.geometry.getAttribute('riltaOwn_seed').array]).toEqual(many.map((_, i) => i + 1));
		expect(one!.instanceMatrix.array[16 * 3 + 12]).toBe(3);
		expect(scene.children).toHaveLength(1);
		// The same again is nothing new; what moves is followed.
		expect(crowds.group(many, () => 'alike')).toBe(false);
		many[3]!.position.y = 5;
		many[3]!.updateMatrixWorld();
		crowds.follow();
		expect(one!.instanceMatrix.array[16 * 3 + 13]).toBe(5);
	});

	it('parts when some look otherwise, and is gone when too few are left', () => {
		const crowds = new Crowds(new Object3D(), () => {});
		const many = objects(2 * CROWD);
		crowds.group(many, (mesh) => (many.indexOf(mesh) < CROWD ? 'dry' : 'wet'));
		expect(drawn(crowds).map((one) => one.count)).toEqual([CROWD, CROWD]);
		expect(crowds.group(many, (mesh) => (many.indexOf(mesh) < 3 ? null : many.indexOf(mesh) < CROWD ? 'dry' : 'wet'))).toBe(true);
		expect(drawn(crowds).map((one) => one.count)).toEqual([CROWD]);
		expect(many.map((one) => one.userData.crowd)).toEqual([...Array(CROWD).fill(null), ...Array(CROWD).fill('wet')]);
		expect(shared.hasAttribute('position')).toBe(true);
	});

	it('wears several variants in one call, each object its own, and says when there are others', () => {
		const crowds = new Crowds(new Object3D(), () => {});
		const many = objects(CROWD);
		for (const [i, one] of many.entries()) one.userData.variant = ['', 'wet', 'dry'][i % 3];
		expect(crowds.group(many, () => 'alike')).toBe(true);
		const [one] = drawn(crowds);
		const rows = () => [...one!.geometry.getAttribute('riltaOwn_row').array];
		expect([one!.userData.variants, rows()]).toEqual([['', 'wet', 'dry'], many.map((_, i) => i % 3)]);
		many[3]!.userData.variant = 'dry';
		expect(crowds.group(many, () => 'alike')).toBe(false);
		expect(rows()[3]).toBe(2);
		many[3]!.userData.variant = 'old';
		expect(crowds.group(many, () => 'alike')).toBe(true);
		expect([one!.userData.variants, rows()[3]]).toEqual([['', 'wet', 'dry', 'old'], 3]);
	});

	it('is exact beside itself, however far away it is', () => {
		const crowds = new Crowds(new Object3D(), () => {});
		crowds.group(objects(CROWD, 123_456.789), () => 'alike');
		const [one] = drawn(crowds);
		expect(one!.position.x).toBe(123_456.789);
		expect(one!.instanceMatrix.array[16 * 5 + 12]).toBeCloseTo(5, 9);
	});

	it('is told to what is shown of it, and to nothing else', () => {
		const [many, one] = [{ fragmentShader: 'A', instancing: true }, { fragmentShader: 'A', instancing: false }];
		toldOfMany(many);
		toldOfMany(one);
		expect([many.fragmentShader, one.fragmentShader]).toEqual(['#define USE_INSTANCING\nA', 'A']);
	});
});
