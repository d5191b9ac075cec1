import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

const here = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
	root: here('.'),
	build: {
		outDir: here('../../var/test/parity'),
		emptyOutDir: false,
		minify: false,
		lib: { entry: here('page.ts'), formats: ['iife'], name: 'parity', fileName: () => 'page.js' }
	}
});
