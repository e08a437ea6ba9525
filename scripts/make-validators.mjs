// Compiles the JSON schemas to plain functions, since a strict content security policy forbids doing it at run time.
import { existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import Ajv from 'ajv';
import standalone from 'ajv/dist/standalone/index.js';
import { build } from 'vite';

const sources = ['drawing', 'workshop'].map((name) => `src/lib/core/formats/${name}.schema.json`);
const folder = 'src/lib/generated';
const target = `${folder}/validators.js`;
const self = 'scripts/make-validators.mjs';
const changed = (file) => statSync(target).mtimeMs < statSync(file).mtimeMs;

if (!existsSync(target) || sources.some(changed) || changed(self)) {
	const schemas = sources.map((source) => JSON.parse(readFileSync(source, 'utf8')));
	// One record alone is checked too: what is read back from the browser's database.
	const record = { $id: 'record', $ref: 'drawing#/definitions/record' };
	const ajv = new Ajv({
		schemas: [...schemas, record],
		code: { source: true, esm: true },
		discriminator: true,
		inlineRefs: false
	});
	mkdirSync(folder, { recursive: true });
	writeFileSync(
		`${folder}/raw.js`,
		standalone.default(ajv, {
			validateDrawing: 'drawing',
			validateRecord: 'record',
			validateWorkshop: 'workshop'
		})
	);
	await build({
		configFile: false,
		logLevel: 'warn',
		publicDir: false,
		build: {
			outDir: folder,
			emptyOutDir: false,
			minify: false,
			target: 'es2022',
			lib: { entry: `${folder}/raw.js`, formats: ['es'], fileName: () => 'validators.js' }
		}
	});
	rmSync(`${folder}/raw.js`);
	writeFileSync(
		`${folder}/validators.d.ts`,
		`import type { ValidateFunction } from 'ajv';\nexport const validateDrawing: ValidateFunction;\nexport const validateRecord: ValidateFunction;\nexport const validateWorkshop: ValidateFunction;\n`
	);
}
