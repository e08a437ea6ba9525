// The core as a package of its own: package/dist with one module and its types; what it needs of the registry goes into package/package.json.
//   npm run build:package [-- --check]     --check: only says whether package.json names what is needed
import { spawnSync } from 'node:child_process';
import { builtinModules } from 'node:module';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { build } from 'vite';

const read = (file) => JSON.parse(readFileSync(file, 'utf8'));
const { dependencies } = read('package.json');
const names = Object.keys(dependencies);
const nameOf = (id) => names.find((name) => id === name || id.startsWith(`${name}/`));

rmSync('package/dist', { recursive: true, force: true });
const [{ output }] = [
	await build({
		configFile: false,
		logLevel: 'error',
		publicDir: false,
		build: {
			ssr: true,
			target: 'node20',
			minify: false,
			outDir: 'package/dist',
			rollupOptions: {
				input: { index: 'src/lib/core/index.ts' },
				output: { format: 'es', entryFileNames: '[name].mjs', chunkFileNames: 'parts/[name].mjs' },
				external: (id) => id.startsWith('node:') || builtinModules.includes(id) || nameOf(id) !== undefined
			}
		}
	})
].flat();
const used = new Set();
for (const { imports = [], dynamicImports = [] } of output)
	for (const id of [...imports, ...dynamicImports]) {
		const name = nameOf(id);
		if (name) used.add(name);
	}
const needed = Object.fromEntries([...used].sort().map((name) => [name, dependencies[name]]));
const own = read('package/package.json');
if (JSON.stringify(own.dependencies ?? {}) !== JSON.stringify(needed)) {
	if (process.argv.includes('--check')) {
		console.error('package/package.json does not name what the core needs: npm run build:package');
		process.exit(1);
	}
	writeFileSync('package/package.json', `${JSON.stringify({ ...own, dependencies: needed }, null, '\t')}\n`);
}
const types = spawnSync('node_modules/.bin/tsc', ['-p', 'package/tsconfig.json'], { stdio: 'inherit' });
process.exit(types.status ?? 1);
