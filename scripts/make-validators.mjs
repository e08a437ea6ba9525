// Compiles the JSON schemas to plain functions, since a strict content security policy forbids doing it at run time.
import { existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import Ajv from 'ajv';
import standalone from 'ajv/dist/standalone/index.js';
import { build, parseAst } from 'vite';

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
/** The same code without what it would say of a fault: who asks only for yes or no need not load it. */
function withoutReasons(code) {
	const spans = [];
	const visit = (node) => {
		if (node.type === 'ObjectExpression' && node.properties.some((p) => p.key?.name === 'instancePath'))
			spans.push([node.start, node.end, '{}']);
		else if (node.type === 'VariableDeclarator' && /^schema\d+$/.test(node.id.name)) {
			const { start, end } = node.init;
			spans.push([start, end, JSON.stringify(namesIn(JSON.parse(code.slice(start, end))))]);
		} else
			for (const value of Object.values(node))
				for (const child of Array.isArray(value) ? value : [value])
					if (typeof child?.type === 'string') visit(child);
	};
	visit(parseAst(code));
	return spans.reduceRight(
		(text, [start, end, instead]) => text.slice(0, start) + instead + text.slice(end),
		code
	);
}
/** Of a schema only which names stand where: all that the compiled code still looks up in it. */
function namesIn(schema) {
	if (Array.isArray(schema)) return schema.map(namesIn);
	if (!schema || typeof schema !== 'object') return 0;
	return Object.fromEntries(
		Object.entries(schema).flatMap(([key, value]) => {
			if (key === 'properties')
				return [[key, Object.fromEntries(Object.entries(value).map(([name, own]) => [name, namesIn(own)]))]];
			return JSON.stringify(value).includes('"properties"') ? [[key, namesIn(value)]] : [];
		})
	);
}
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
		const code = standalone.default(ajv, { [name]: schema });
		writeFileSync(`${folder}/raw.js`, messages ? code : withoutReasons(code));
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
