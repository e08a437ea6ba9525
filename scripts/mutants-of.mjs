/**
 * Mutants of single files against the tests of their own, and those that are named: a minute a file where all tests take hours.
 * Tells what no test noticed, line by line: `npm run mutants:of -- src/lib/core/geometry/arc.ts [more.ts:60-90] [some.test.ts]`.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';

const named = process.argv.slice(2);
const files = named.filter((file) => !file.endsWith('.test.ts'));
if (files.length === 0) {
	console.error('Name a file: npm run mutants:of -- src/lib/core/geometry/arc.ts');
	process.exit(1);
}

/** The test that has its name; where there is none, the tests beside a file that import it. */
function testsBeside(named) {
	const file = named.replace(/:[\d-]+$/, '');
	const own = file.replace(/\.ts$/, '.test.ts');
	if (existsSync(own)) return [own];
	const folder = dirname(file);
	const from = `'./${basename(file, '.ts')}'`;
	return readdirSync(folder)
		.filter((name) => name.endsWith('.test.ts'))
		.map((name) => join(folder, name))
		.filter((test) => readFileSync(test, 'utf8').includes(from));
}

const tests = [...new Set([...files.flatMap(testsBeside), ...named.filter((f) => f.endsWith('.test.ts'))])];
if (tests.length === 0) {
	console.error('No test beside it imports it: name the tests too.');
	process.exit(1);
}
console.log(`Against ${tests.join(', ')}`);

const found = '.cache/mutants-of.json';
const { incrementalFile: _all, ...common } = JSON.parse(readFileSync('stryker.config.json', 'utf8'));
mkdirSync('.cache', { recursive: true });
writeFileSync(
	'.cache/mutants-of.config.json',
	JSON.stringify({
		...common,
		incremental: false,
		timeoutMS: 4000,
		mutate: files,
		reporters: ['progress-append-only', 'json'],
		jsonReporter: { fileName: found }
	})
);
const { status } = spawnSync('npx', ['stryker', 'run', '.cache/mutants-of.config.json'], {
	env: { ...process.env, MUTANTS_TESTS: tests.join(',') },
	stdio: ['ignore', 'inherit', 'inherit']
});
if (status !== 0) process.exit(status ?? 1);

for (const [file, { mutants, source }] of Object.entries(JSON.parse(readFileSync(found, 'utf8')).files)) {
	const lines = source.split('\n');
	const tried = mutants.filter(({ status: s }) => s !== 'Ignored');
	const missed = tried.filter(({ status: s }) => s === 'Survived' || s === 'NoCoverage');
	const notRun = new Set(
		missed.filter(({ status: s }) => s === 'NoCoverage').map((m) => m.location.start.line)
	);
	if (notRun.size)
		console.log(`${file}: not run by them: lines ${[...notRun].sort((a, b) => a - b).join(' ')}`);
	for (const { location, replacement, status: s } of missed) {
		if (s === 'NoCoverage') continue;
		const { start, end } = location;
		const line = lines[start.line - 1];
		const was = start.line === end.line ? line.slice(start.column - 1, end.column - 1) : line.trim();
		const flat = (text) => text.replace(/\s+/g, ' ').slice(0, 70);
		console.log(`${file}:${start.line}  ${flat(was)}  ->  ${flat(replacement)}`);
	}
	console.log(`${file}: ${tried.length - missed.length} of ${tried.length} noticed`);
}
