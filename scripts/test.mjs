// npm test: sets itself up on a fresh clone and runs everything: lint, types, unit, end-to-end. Ends with a count.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { CHROMIUM } from './chromium.mjs';

const results = [];
let passed = 0;
let failed = 0;

function run(command, args, env = {}) {
	const started = Date.now();
	const done = spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, ...env } });
	return { ok: done.status === 0, seconds: Math.round((Date.now() - started) / 1000) };
}

function step(name, command, args, env) {
	console.log(`\n== ${name}`);
	const { ok, seconds } = run(command, args, env);
	results.push(`${ok ? 'ok    ' : 'FAILED'} ${name} (${seconds} s)`);
	return ok;
}

/** A step that counts as one test. */
function check(name, command, args) {
	if (step(name, command, args)) passed++;
	else failed++;
}

/** Checks one after the other, while other rows of them run beside; what one says is shown when it is done. */
function checkRow(row) {
	return row.reduce(
		(before, [name, command, args]) =>
			before.then(
				() =>
					new Promise((done) => {
						const started = Date.now();
						const said = [];
						const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] });
						for (const out of [child.stdout, child.stderr]) out.on('data', (part) => said.push(part));
						child.on('error', (error) => said.push(Buffer.from(`${error.message}\n`)));
						child.on('close', (code) => {
							console.log(`\n== ${name}`);
							process.stdout.write(Buffer.concat(said));
							const ok = code === 0;
							results.push(
								`${ok ? 'ok    ' : 'FAILED'} ${name} (${Math.round((Date.now() - started) / 1000)} s)`
							);
							if (ok) passed++;
							else failed++;
							done();
						});
					})
			),
		Promise.resolve()
	);
}

function finish() {
	console.log('\n' + results.join('\n'));
	console.log(`${passed} passed, ${failed} failed`);
	process.exit(failed ? 1 : 0);
}

mkdirSync('.cache', { recursive: true });
const wanted = createHash('sha256').update(readFileSync('package.json')).digest('hex');
const stamp = '.cache/install.sha256';
if (!existsSync('node_modules') || !existsSync(stamp) || readFileSync(stamp, 'utf8') !== wanted) {
	if (!step('install', 'npm', ['install', '--no-audit', '--no-fund', '--loglevel=error'])) {
		failed++;
		finish();
	}
	writeFileSync(stamp, wanted);
}
if (!existsSync(CHROMIUM)) {
	const asRoot = process.getuid?.() === 0 ? [] : ['sudo'];
	const apt = (...args) => [...asRoot, 'apt-get', ...args];
	const [a, ...b] = apt('update', '-qq');
	step('package lists', a, b);
	const [c, ...d] = apt('install', '-y', '-qq', '--no-install-recommends', 'chromium');
	step('Chromium', c, d, { DEBIAN_FRONTEND: 'noninteractive' });
}

const bin = (name) => `node_modules/.bin/${name}`;
check('validators', 'node', ['scripts/make-validators.mjs']);
check('licences', 'node', ['scripts/check-licences.mjs']);
check('sync', bin('svelte-kit'), ['sync']);
await Promise.all([
	checkRow([['lint', bin('eslint'), ['.']]]),
	checkRow([
		['format', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
		['import rules', bin('depcruise'), ['--config', '.dependency-cruiser.cjs', 'src']],
		[
			'types',
			bin('svelte-check'),
			['--tsconfig', './tsconfig.json', '--fail-on-warnings', '--output', 'human']
		]
	])
]);
// It writes what the others read, so it comes by itself.
check('build', 'npm', ['run', '--silent', 'build']);
check('the core as a package', 'node', ['scripts/build-package.mjs', '--check']);

mkdirSync('test-results', { recursive: true });
rmSync('test-results/unit.json', { force: true });
rmSync('test-results/e2e.json', { force: true });
const unitOk = step('unit tests', bin('vitest'), [
	'run',
	'--reporter=default',
	'--reporter=json',
	'--outputFile.json=test-results/unit.json'
]);
try {
	const unit = JSON.parse(readFileSync('test-results/unit.json', 'utf8'));
	passed += unit.numPassedTests;
	failed += unit.numFailedTests + (unitOk || unit.numFailedTests ? 0 : 1);
} catch {
	failed++;
}

check('first load below 300 kB', 'node', ['scripts/check-size.mjs']);
/** All tests that a report tells of, from any depth. */
function specsOf(suites) {
	return suites.flatMap((suite) => [...(suite.specs ?? []), ...specsOf(suite.suites ?? [])]);
}
const e2eOk = step('end-to-end tests', bin('playwright'), ['test']);
try {
	const { stats, suites } = JSON.parse(readFileSync('test-results/e2e.json', 'utf8'));
	for (const spec of specsOf(suites))
		if (spec.tests.some(({ status }) => status === 'flaky'))
			console.log(`passed only when tried again: ${spec.file}:${spec.line} ${spec.title}`);
	passed += stats.expected + stats.flaky;
	failed += stats.unexpected + (e2eOk || stats.unexpected ? 0 : 1);
} catch {
	failed++;
}
finish();
