// The guide for readers (docs/guide.md), from the same source as the help on the bench.
import { writeFileSync } from 'node:fs';
import { createServer } from 'vite';

const server = await createServer({
	configFile: false,
	logLevel: 'error',
	server: { middlewareMode: true, hmr: false },
	optimizeDeps: { noDiscovery: true }
});
try {
	const load = (path) => server.ssrLoadModule(path);
	const { STATIONS } = await load('/src/lib/stores/stations.ts');
	const { HELP } = await load('/src/lib/components/bench/help-pages.ts');
	const { OPERATION_HELP } = await load('/src/lib/stores/help/sheets.ts');
	const lines = [
		'# Guide',
		'',
		'From a picture to a file for the machine, station by station. The same words are in the program (`?`). Made by `npm run guide`.'
	];
	for (const { id, word } of STATIONS) {
		lines.push('', `## ${word}`, '', ...HELP[id].map(({ say }, i) => `${i + 1}. ${say}`));
		for (const help of Object.values(OPERATION_HELP)) {
			if (help.station !== id) continue;
			lines.push(
				'',
				`### ${help.word}`,
				'',
				help.purpose,
				'',
				`- **Before:** ${help.before}`,
				`- **After:** ${help.after}`,
				...help.mistakes.map((mistake) => `- **A mistake people make:** ${mistake}`)
			);
		}
	}
	writeFileSync('docs/guide.md', `${lines.join('\n')}\n`);
} finally {
	await server.close();
}
