/** Pixels of one picture of a contact sheet, and of what stands around them. */
export const CELL = { width: 400, height: 250 } as const;
const GAP = 8;
const HEAD = 56;
const CAPTION = 26;
const MARGIN = 130;

export type Cells = { title: string; about: string; rows: readonly string[]; columns: readonly string[] };
export type Look = { ground: string; text: string; dim: string; font: string };

/** Where a picture of a contact sheet begins, pixels. */
export const cornerOf = (row: number, column: number): readonly [x: number, y: number] => [MARGIN + GAP + column * (CELL.width + GAP), HEAD + CAPTION + row * (CELL.height + GAP)];

/** Pixels of a whole contact sheet. */
export const sizeOf = (rows: number, columns: number): { width: number; height: number } => {
	const [width, height] = cornerOf(rows, columns);
	return { width, height };
};

/** The sheet without its pictures: what it is called, and what its rows and columns are. */
export function ruled({ title, about, rows, columns }: Cells, look: Look): HTMLCanvasElement {
	const canvas = document.createElement('canvas');
	Object.assign(canvas, sizeOf(rows.length, columns.length));
	const context = canvas.getContext('2d');
	if (context === null) throw new Error('The browser has no room for a picture.');
	context.fillStyle = look.ground;
	context.fillRect(0, 0, canvas.width, canvas.height);
	context.textBaseline = 'alphabetic';
	const write = (text: string, x: number, y: number, size: number, colour: string, weight: number, room: number): void => {
		context.font = `${weight} ${size}px ${look.font}`;
		context.fillStyle = colour;
		context.fillText(text, x, y, room);
	};
	write(title, GAP, 26, 18, look.text, 600, canvas.width - 2 * GAP);
	write(about, GAP, 46, 13, look.dim, 400, canvas.width - 2 * GAP);
	for (const [i, column] of columns.entries()) write(column, cornerOf(0, i)[0], HEAD + CAPTION - 9, 14, look.text, 600, CELL.width);
	for (const [i, row] of rows.entries()) write(row, GAP, cornerOf(i, 0)[1] + 20, 14, look.text, 600, MARGIN - GAP);
	return canvas;
}

/** A picture that is drawn as a PNG. */
export const asPng = (canvas: HTMLCanvasElement): Promise<Blob> => new Promise((resolve, reject) => canvas.toBlob((blob) => (blob === null ? reject(new Error('The picture could not be written.')) : resolve(blob)), 'image/png'));
