import { SRGBColorSpace, WebGLRenderTarget, type WebGLRenderer } from 'three';

/**
 * Draws into a canvas of its own size, with the renderer of the stage.
 *
 * @param draw into what is set
 */
export function drawInto(canvas: HTMLCanvasElement, renderer: WebGLRenderer, draw: () => void, target = new WebGLRenderTarget(1, 1, { colorSpace: SRGBColorSpace })): void {
	const { width, height } = canvas;
	target.setSize(width, height);
	const pixels = new Uint8ClampedArray(width * height * 4);
	renderer.setRenderTarget(target);
	renderer.clear();
	draw();
	renderer.readRenderTargetPixels(target, 0, 0, width, height, pixels);
	renderer.setRenderTarget(null);
	target.dispose();
	const image = new ImageData(width, height);
	// Rows come from below.
	for (let y = 0; y < height; y++) image.data.set(pixels.subarray((height - 1 - y) * width * 4, (height - y) * width * 4), y * width * 4);
	canvas.getContext('2d')?.putImageData(image, 0, 0);
}
