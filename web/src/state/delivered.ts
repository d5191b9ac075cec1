import type { DeliveredFile, DeliveryProfile } from '../api/client';

/** Of a size, as people read it. */
export function weight(bytes: number): string {
	const [unit, size] = bytes >= 1024 * 1024 ? ['MiB', 1024 * 1024] : bytes >= 1024 ? ['KiB', 1024] : ['B', 1];
	return `${(bytes / size).toFixed(size === 1 || bytes / size >= 100 ? 0 : 1)} ${unit}`;
}

/** All that is taken by files: where they are kept, and where pictures are drawn with. */
export function taken(files: readonly DeliveredFile[]): { disk: number; memory: number } {
	return { disk: files.reduce((sum, one) => sum + one.bytes, 0), memory: files.reduce((sum, one) => sum + (one.picture?.memory ?? 0), 0) };
}

/** How far a picture is from what it is a picture of: in the mean, and what 95 of 100 values stay within. */
export function away(off: { mean: number; within: number }): string {
	const figure = (x: number): string => (x === 0 ? '0' : x < 0.05 ? '< 0.1' : x.toFixed(1));
	return off.mean === 0 && off.within === 0 ? '0' : `${figure(off.mean)}, within ${figure(off.within)}`;
}

/** What a profile brings, in words. */
export function wanted(profile: DeliveryProfile, labels: { language: (name: string) => string; format: (name: string) => string }): string[] {
	const { code = [], bake, glb, grid, budget } = profile;
	return [
		...(code.length === 0 ? [] : [`Code: ${code.map(labels.language).join(', ')}${profile.maps == null ? '' : `; its maps as ${labels.format(profile.maps)}, ${profile.textures === 'single' ? 'one by one' : 'in arrays'}`}`]),
		...(bake == null ? [] : [`Baked images of ${bake.size} pixels as ${labels.format(bake.files ?? 'png')}${bake.green === '-y' ? ', green of normals downwards' : ''}`]),
		...(bake?.packed ?? []).map((one) => `Packed as ${one.name}: ${one.channels.map((part) => (part.role === undefined ? String(part.value) : `${part.inverted === true ? '1 − ' : ''}${part.role.replaceAll('-', ' ')}${part.channel === undefined ? '' : ` ${part.channel}`}`)).join(', ')}`),
		...(glb == null ? [] : [`The tile on a mesh, as GLB${glb.variants === true ? ', with its variants' : ''}`]),
		...(grid == null ? [] : [`A grid of ${grid.samples} × ${grid.samples} samples, ${grid.metres ?? 1} m apart: heights and layers`]),
		...Object.entries({ 'on disk': budget?.disk, 'in memory': budget?.memory }).flatMap(([where, most]) => (most === undefined ? [] : [`At most ${most} MiB ${where}`]))
	];
}

/** What baked images would be called. */
export function called(pattern: string, material: string, variant: string, role: string): string {
	return pattern.replaceAll('{material}', material).replaceAll('{variant}', variant).replaceAll('{role}', role).replace(/([._-])[._-]+/g, '$1').replace(/^[._-]+|[._-]+$/g, '');
}
