// Compiles the JSON schemas to plain functions, since a strict content security policy forbids doing it at run time.
import { existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import Ajv from 'ajv';
import standalone from 'ajv/dist/standalone/index.js';
import { build } from 'vite';

const sources = ['drawing', 'workshop'].map((name) => `src/lib/core/formats/${name}.schema.json`);
const folder = 'src/lib/generated';
/** Each in a file of its own, so that nobody loads more than he asks. The one for records is loaded at once: it says only yes or no. */
const VALIDATORS = {
	'validate-drawing': { schema: 'drawing', name: 'validateDrawing', messages: true },
	'validate-record': { schema: 'record', name: 'validateRecord', messages: false },
	'validate-workshop': { schema: 'workshop', name: 'validateWorkshop', messages: true }
};
const targets = Object.keys(VALIDATORS).map((file) => `${folder}/${file}.js`);
const self = 'scripts/make-validators.mjs';
const changed = (file) => targets.some((target) => statSync(target).mtimeMs < statSync(file).mtimeMs);

if (!targets.every((target) => existsSync(target)) || sources.some(changed) || changed(self)) {
	const schemas = sources.map((source) => JSON.parse(readFileSync(source, 'utf8')));
	// One record alone is checked too: what is read back from the browser's database.
	const record = { $id: 'record', $ref: 'drawing#/definitions/record' };
	mkdirSync(folder, { recursive: true });
	for (const [file, { schema, name, messages }] of Object.entries(VALIDATORS)) {
		const ajv = new Ajv({
			schemas: [...schemas, record],
			code: { source: true, esm: true },
			discriminator: true,
			inlineRefs: false,
			messages
		});
		writeFileSync(`${folder}/raw.js`, standalone.default(ajv, { [name]: schema }));
		await build({
			configFile: false,
			logLevel: 'warn',
			publicDir: false,
			build: {
				outDir: folder,
				emptyOutDir: false,
				minify: false,
				target: 'es2022',
				lib: { entry: `${folder}/raw.js`, formats: ['es'], fileName: () => `${file}.js` }
			}
		});
		rmSync(`${folder}/raw.js`);
		writeFileSync(
			`${folder}/${file}.d.ts`,
			`import type { ValidateFunction } from 'ajv';\nexport const ${name}: ValidateFunction;\n`
		);
	}
}
