import { defineConfig } from 'vitest/config';

// What the mutants of the geometry are held against: the tests of the geometry and of what is built right on it.
export default defineConfig({
	test: {
		environment: 'node',
		// Others are named by `npm run mutants:of`.
		include: process.env.MUTANTS_TESTS?.split(',') ?? [
			'src/lib/core/{geometry,fit,plane}/**/*.test.ts',
			'tests/oracle/**/*.test.ts'
		],
		setupFiles: ['tests/setup.ts'],
		testTimeout: 300_000
	}
});
