import { PCFShadowMap, WebGLRenderer } from 'three';

let one: WebGLRenderer | null = null;

/**
 * The one renderer of the page, with a canvas of its own that goes from stage to stage. Making it takes a third of a second where
 * drawing is done in software, and browsers keep few contexts; who knows that a stage comes next asks for it in a quiet moment.
 */
export function stageRenderer(): WebGLRenderer {
	if (one !== null && !one.getContext().isContextLost()) return one;
	const canvas = document.createElement('canvas');
	canvas.tabIndex = 0;
	canvas.setAttribute('aria-label', 'Stage: drag to look around, scroll to come closer');
	one = new WebGLRenderer({ canvas, antialias: false, preserveDrawingBuffer: true, powerPreference: 'high-performance' });
	one.shadowMap.enabled = true;
	one.shadowMap.type = PCFShadowMap;
	one.shadowMap.autoUpdate = false;
	return one;
}
