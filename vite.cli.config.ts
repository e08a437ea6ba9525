import { builtinModules } from 'node:module';
import { readFileSync } from 'node:fs';
import { defineConfig } from 'vite';

// The second build: the command line and the worker that traces for servers, outside the adapter's output folder. Packages stay external.
const { dependencies } = JSON.parse(readFileSync('package.json', 'utf8')) as {
	dependencies: Record<string, string>;
};
const packages = Object.keys(dependencies);

export default defineConfig({
	publicDir: false,
	build: {
		ssr: true,
		outDir: 'dist',
		emptyOutDir: true,
		target: 'node20',
		minify: false,
		rollupOptions: {
			input: {
				'even-thread': 'src/cli/main.ts',
				'arrange-worker': 'src/cli/arrange-worker.ts',
				'trace-worker': 'src/lib/server/trace-worker.ts'
			},
			output: { format: 'es', entryFileNames: '[name].mjs', chunkFileNames: 'chunks/[name].mjs' },
			external: (id) =>
				id.startsWith('node:') ||
				builtinModules.includes(id) ||
				packages.some((name) => id === name || id.startsWith(name + '/'))
		}
	}
});
