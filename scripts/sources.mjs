// The project's own TypeScript, as scripts load it: `const sources = await openSources(); await sources.ssrLoadModule('/src/…')`; close it when done.
import { createServer } from 'vite';

export const openSources = () =>
	createServer({
		server: { middlewareMode: true, hmr: false, ws: false },
		appType: 'custom',
		logLevel: 'error',
		optimizeDeps: { noDiscovery: true }
	});
