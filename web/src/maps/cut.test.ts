import { describe, expect, it } from 'vitest';
import { between, dragged, measured, partAt, snapped } from './cut';

const texel = { width: 10, height: 20 };

describe('cutting a sheet', () => {
	it('snaps to texels and stays in the map', () => {
		expect([snapped(14.9, 10), snapped(15.1, 10), snapped(-4, 10), snapped(130, 10)]).toEqual([10, 20, 0, 100]);
	});
	it('draws a rectangle either way, of at least one texel', () => {
		expect(between([48, 52], [19, 18], texel, 'a')).toEqual({ name: 'a', x: 20, y: 20, width: 30, height: 30 });
		expect(between([50, 50], [50, 50], texel, 'a')).toEqual({ name: 'a', x: 50, y: 50, width: 10, height: 5 });
		expect(between([100, 100], [100, 100], texel, 'a')).toEqual({ name: 'a', x: 90, y: 95, width: 10, height: 5 });
	});
	it('moves and resizes within the map', () => {
		const one = { name: 'a', x: 20, y: 20, width: 30, height: 30 };
		expect(dragged(one, 'move', 90, -90, texel)).toEqual({ ...one, x: 70, y: 0 });
		expect(dragged(one, 'corner', 90, -90, texel)).toEqual({ ...one, width: 80, height: 5 });
	});
	it('takes measures in texels', () => {
		const one = { name: 'a', x: 20, y: 20, width: 30, height: 30 };
		expect(measured(one, 'x', 4, texel)).toEqual({ ...one, x: 40 });
		expect(measured(one, 'x', 8, texel)).toEqual({ ...one, x: 80, width: 20 });
		expect(measured(one, 'y', 19, texel)).toEqual({ ...one, y: 95, height: 5 });
		expect(measured(one, 'y', 90, texel)).toEqual({ ...one, y: 95, height: 5 });
		expect(measured(one, 'x', -3, texel)).toEqual({ ...one, x: 0 });
		expect(measured(one, 'width', 6, texel)).toEqual({ ...one, width: 60 });
		expect(measured(one, 'height', 0, texel)).toEqual({ ...one, height: 5 });
		expect(measured(one, 'height', 400, texel)).toEqual({ ...one, height: 80 });
	});
	it('finds the part under the pointer', () => {
		const grid = { columns: 4, rows: 2, rectangles: [] };
		expect([partAt(grid, 0, 0), partAt(grid, 99, 1), partAt(grid, 26, 51), partAt(grid, 100, 1)]).toEqual([0, 3, 5, -1]);
		const parts = { columns: 0, rows: 0, rectangles: [{ name: 'a', x: 0, y: 0, width: 50, height: 50 }, { name: 'b', x: 25, y: 25, width: 50, height: 50 }] };
		expect(partAt({ ...parts, rectangles: [] }, 10, 10)).toBe(-1);
		expect([partAt(parts, 30, 30), partAt(parts, 10, 10), partAt(parts, 90, 90)]).toEqual([1, 0, -1]);
	});
});
