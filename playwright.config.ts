import { defineConfig } from '@playwright/test';
import { CHROMIUM, CHROMIUM_ARGS } from './scripts/chromium.mjs';

const PORT = Number(process.env.E2E_PORT ?? 4177);

export default defineConfig({
	testDir: 'tests/e2e',
	// Limits, not waits: on a busy machine everything takes longer, and patience is no loss where all goes well.
	timeout: 480_000,
	expect: { timeout: Number(process.env.E2E_EXPECT ?? 120_000) },
	workers: 2,
	fullyParallel: true,
	// What passes only when it is tried again is named at the end of `npm test`: it is a fault still, of the app or of its test.
	retries: 1,
	reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
	use: {
		baseURL: `http://127.0.0.1:${PORT}`,
		viewport: { width: 1280, height: 800 },
		// Only what is tried with the network cut needs the whole app put by.
		serviceWorkers: 'block',
		launchOptions: { executablePath: CHROMIUM, args: CHROMIUM_ARGS }
	},
	webServer: {
		command: 'node scripts/serve.mjs',
		url: `http://127.0.0.1:${PORT}/`,
		timeout: 120_000,
		env: { HOST: '127.0.0.1', PORT: String(PORT), ORIGIN: `http://127.0.0.1:${PORT}` },
		reuseExistingServer: false
	}
});
