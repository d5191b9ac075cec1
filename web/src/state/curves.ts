/**
 * The line through points as a path of SVG: level before the first and after the last; between two straight, or eased as the
 * core eases, by 3t² - 2t³. That is the cubic whose inner points lie at thirds of the way, level with the ends.
 */
export function curvePath(points: readonly (readonly [number, number])[], [from, to]: readonly [number, number], eased: boolean): string {
	const first = points[0];
	if (first === undefined) return '';
	let path = `M${from},${first[1]}L${first[0]},${first[1]}`;
	let [x, y] = first;
	for (const [nextX, nextY] of points.slice(1)) {
		const third = (nextX - x) / 3;
		path += eased ? `C${x + third},${y},${nextX - third},${nextY},${nextX},${nextY}` : `L${nextX},${nextY}`;
		[x, y] = [nextX, nextY];
	}
	return `${path}L${to},${y}`;
}
