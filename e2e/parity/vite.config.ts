import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

const here = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

// By its mode: page, or materialx.
export default defineConfig(({ mode }) => ({
	root: here('.'),
	// A script of its own knows no address of its own; three's loader asks for one for what it does not need here.
	define: { 'import.meta.url': '"http://127.0.0.1/"' },
	build: {
		outDir: here('../../var/test/parity'),
		emptyOutDir: false,
		minify: false,
		assetsInlineLimit: 0,
		lib: { entry: here(`${mode}.ts`), formats: ['iife'], name: 'parity', fileName: () => `${mode}.js` }
	}
}));
