/** CIEDE2000 of two colours as screens show them, 0…255; written from Sharma, Wu and Dalal 2005, apart from the core. */
export function deltaE(one: readonly number[], other: readonly number[]): number {
	const [l1, a1, b1] = lab(one);
	const [l2, a2, b2] = lab(other);
	const rad = Math.PI / 180;
	const chroma = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2;
	const g = 0.5 * (1 - Math.sqrt(chroma ** 7 / (chroma ** 7 + 25 ** 7)));
	const [p1, p2] = [(1 + g) * a1, (1 + g) * a2];
	const [c1, c2] = [Math.hypot(p1, b1), Math.hypot(p2, b2)];
	const degrees = (x: number, y: number): number => (x === 0 && y === 0 ? 0 : (Math.atan2(y, x) / rad + 360) % 360);
	const [h1, h2] = [degrees(p1, b1), degrees(p2, b2)];
	let turn = h2 - h1;
	if (c1 * c2 === 0) turn = 0;
	else if (turn > 180) turn -= 360;
	else if (turn < -180) turn += 360;
	const [dl, dc, dh] = [l2 - l1, c2 - c1, 2 * Math.sqrt(c1 * c2) * Math.sin((turn * rad) / 2)];
	const [lm, cm] = [(l1 + l2) / 2, (c1 + c2) / 2];
	let hm = h1 + h2;
	if (c1 * c2 !== 0) hm = Math.abs(h1 - h2) <= 180 ? hm / 2 : hm < 360 ? (hm + 360) / 2 : (hm - 360) / 2;
	const t = 1 - 0.17 * Math.cos((hm - 30) * rad) + 0.24 * Math.cos(2 * hm * rad) + 0.32 * Math.cos((3 * hm + 6) * rad) - 0.2 * Math.cos((4 * hm - 63) * rad);
	const sl = 1 + (0.015 * (lm - 50) ** 2) / Math.sqrt(20 + (lm - 50) ** 2);
	const [sc, sh] = [1 + 0.045 * cm, 1 + 0.015 * cm * t];
	const rt = -2 * Math.sqrt(cm ** 7 / (cm ** 7 + 25 ** 7)) * Math.sin(60 * rad * Math.exp(-(((hm - 275) / 25) ** 2)));
	return Math.sqrt((dl / sl) ** 2 + (dc / sc) ** 2 + (dh / sh) ** 2 + rt * (dc / sc) * (dh / sh));
}

function lab(screen: readonly number[]): [number, number, number] {
	const [r = 0, g = 0, b = 0] = screen.map((one) => one / 255).map((one) => (one <= 0.04045 ? one / 12.92 : ((one + 0.055) / 1.055) ** 2.4));
	const [x, y, z] = [(0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.95047, 0.2126 * r + 0.7152 * g + 0.0722 * b, (0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.08883].map((one) => (one > 216 / 24389 ? Math.cbrt(one) : (one * (24389 / 27) + 16) / 116)) as [number, number, number];
	return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}
