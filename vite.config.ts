import tailwindcss from '@tailwindcss/vite';
import { sveltekit } from '@sveltejs/kit/vite';
import { defineConfig } from 'vitest/config';

export default defineConfig({
	plugins: [tailwindcss(), sveltekit()],
	worker: { format: 'es' },
	build: { chunkSizeWarningLimit: 1200 },
	test: {
		environment: 'node',
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
