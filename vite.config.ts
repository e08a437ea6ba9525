import { availableParallelism } from 'node:os';
import tailwindcss from '@tailwindcss/vite';
import { sveltekit } from '@sveltejs/kit/vite';
import { defineConfig } from 'vitest/config';
import { texts } from './scripts/texts/translate.mjs';

/** Another language than ours, where one is asked for: `TEXTS=de npm run build`. */
const { TEXTS } = process.env;

export default defineConfig({
	plugins: [...(TEXTS ? [texts(TEXTS)] : []), tailwindcss(), sveltekit()],
	// One file a worker: all of the app is put by for work without a network, and the list of it knows no parts of workers.
	worker: { format: 'es', rolldownOptions: { output: { codeSplitting: false } } },
	build: { chunkSizeWarningLimit: 1200 },
	test: {
		environment: 'node',
		// The process that serves the modules rests once they are served: two cores are for two workers.
		maxWorkers: Math.max(2, availableParallelism() - 1),
		include: [
			'src/**/*.test.ts',
			'tests/oracle/**/*.test.ts',
			'tests/record/**/*.test.ts',
			'tests/command-line/**/*.test.ts'
		],
		// Property tests draw the same cases every time; other seeds are for `npm run torture`.
		setupFiles: ['tests/setup.ts'],
		// Limits, not waits: a busy machine takes longer.
		testTimeout: 300_000
	}
});
