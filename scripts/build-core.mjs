// The core and the tests' shapes as one built module, for scripts that measure it as it ships. Gives the file's path.
import { resolve } from 'node:path';
import { mkdirSync, writeFileSync } from 'node:fs';
import { build } from 'vite';

const PARTS = [
	'src/lib/core/plane/arrangement',
	'src/lib/core/plane/combine',
	'src/lib/core/plane/crossings',
	'src/lib/core/geometry/edge-tree',
	'src/lib/core/fit/fit',
	'src/lib/core/fit/fit-points',
	'src/lib/core/geometry/measure',
	'src/lib/core/plane/offset',
	'src/lib/core/geometry/path',
	'src/lib/core/geometry/pick',
	'src/lib/core/plane/polygon-clipper',
	'src/lib/core/fit/refit',
	'src/lib/core/geometry/segment',
	'src/lib/core/fairing/fair',
	'src/lib/core/fairing/simplify',
	'src/lib/core/check/readiness',
	'src/lib/core/document/edits/anchors',
	'src/lib/core/document/outline',
	'src/lib/core/formats/svg-path',
	'src/lib/core/trace/boundary',
	'src/lib/core/trace/picture',
	'src/lib/core/trace/prepare',
	'src/lib/core/trace/threshold',
	'src/lib/core/trace/trace',
	'src/lib/core/arrange/arrange',
	'src/lib/core/toolpath/plan',
	'src/lib/core/toolpath/compensate',
	'src/lib/core/toolpath/judge',
	'src/lib/core/formats/gcode-write',
	'src/lib/core/formats/gcode-read',
	'src/lib/core/formats/hpgl-write',
	'src/lib/core/formats/hpgl-read',
	'src/lib/core/holds/equations',
	'src/lib/core/holds/solve',
	'src/lib/core/progress',
	'tests/random/arrangements',
	'tests/random/coincident',
	'tests/random/jobs',
	'tests/random/plane',
	'tests/shapes',
	'tests/sketches'
];

/** @param parts what is exported; by another name than the core's own where it is something else. */
export async function buildCore(parts = PARTS, name = 'core') {
	mkdirSync('.cache', { recursive: true });
	writeFileSync(`.cache/${name}-entry.ts`, parts.map((part) => `export * from '../${part}';\n`).join(''));
	await build({
		configFile: false,
		logLevel: 'error',
		publicDir: false,
		build: {
			ssr: true,
			target: 'node20',
			minify: false,
			outDir: `.cache/${name}`,
			emptyOutDir: true,
			rollupOptions: {
				input: `.cache/${name}-entry.ts`,
				output: { format: 'es', entryFileNames: 'core.mjs' }
			}
		}
	});
	return resolve(`.cache/${name}/core.mjs`);
}
