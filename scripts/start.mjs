// npm start: installs and builds where needed, then serves the app. No dependencies, so that it runs on a fresh clone.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const run = (command, args) => {
	const done = spawnSync(command, args, { stdio: 'inherit', shell: process.platform === 'win32' });
	if (done.status !== 0) process.exit(done.status ?? 1);
};

/** A fingerprint of everything that the build depends on. */
function fingerprint() {
	const hash = createHash('sha256').update(process.env.TEXTS ?? '');
	const visit = (path) => {
		if (!existsSync(path)) return;
		if (statSync(path).isDirectory()) {
			if (path.endsWith('generated')) return;
			for (const name of readdirSync(path).sort()) visit(join(path, name));
		} else hash.update(path).update(readFileSync(path));
	};
	for (const path of [
		'src',
		'static',
		'texts',
		'scripts/texts',
		'scripts/make-validators.mjs',
		'package.json',
		'package-lock.json',
		'svelte.config.js',
		'vite.config.ts',
		'vite.cli.config.ts'
	])
		visit(path);
	return hash.digest('hex');
}

const stamp = '.cache/build.sha256';
const lock = '.cache/install.sha256';
mkdirSync('.cache', { recursive: true });
const wanted = createHash('sha256').update(readFileSync('package.json')).digest('hex');
if (!existsSync('node_modules') || !existsSync(lock) || readFileSync(lock, 'utf8') !== wanted) {
	console.log('Installing …');
	run('npm', ['install', '--no-audit', '--no-fund', '--loglevel=error']);
	writeFileSync(lock, wanted);
}
const built = fingerprint();
if (
	!existsSync('build/index.js') ||
	!existsSync('dist/even-thread.mjs') ||
	!existsSync(stamp) ||
	readFileSync(stamp, 'utf8') !== built
) {
	console.log('Building …');
	run('npm', ['run', '--silent', 'build']);
	writeFileSync(stamp, fingerprint());
}
const port = process.env.PORT ?? '4180';
const host = process.env.HOST ?? '127.0.0.1';
const shown = host === '0.0.0.0' || host === '127.0.0.1' ? 'localhost' : host;
const origin = process.env.ORIGIN ?? `http://${shown}:${port}`;
console.log(`Even Thread is at ${origin}`);
const server = spawn('node', ['scripts/serve.mjs'], {
	stdio: 'inherit',
	env: {
		...process.env,
		PORT: port,
		HOST: host,
		ORIGIN: origin
	}
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal));
server.on('exit', (code) => process.exit(code ?? 0));
