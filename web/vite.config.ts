import { svelte } from '@sveltejs/vite-plugin-svelte';
import tailwindcss from '@tailwindcss/vite';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const here = fileURLToPath(new URL('.', import.meta.url));

export default defineConfig({
	root: here,
	cacheDir: fileURLToPath(new URL('../var/vite', import.meta.url)),
	plugins: [svelte({ configFile: `${here}svelte.config.js` }), tailwindcss()],
	// Decoders of meshes run in Node as well, and look for files only there.
	build: { rolldownOptions: { input: [`${here}index.html`, `${here}play.html`], onLog: (level, log, tell) => void (log.message.includes('externalized for browser compatibility') || tell(level, log)) }, outDir: 'dist', emptyOutDir: true, target: 'es2022', chunkSizeWarningLimit: 1500 },
	test: { include: ['src/**/*.test.ts'] },
	server: { host: '127.0.0.1', proxy: { '/api': `http://127.0.0.1:${process.env.RILTA_PORT ?? '8420'}` } }
});
