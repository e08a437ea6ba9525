// npm start: installs and builds where needed, then serves the app. No dependencies, so that it runs on a fresh clone.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { buildName } from './fingerprint.mjs';

const run = (command, args) => {
	const done = spawnSync(command, args, { stdio: 'inherit', shell: process.platform === 'win32' });
	if (done.status !== 0) process.exit(done.status ?? 1);
};

const stamp = '.cache/build.sha256';
const lock = '.cache/install.sha256';
mkdirSync('.cache', { recursive: true });
const wanted = createHash('sha256').update(readFileSync('package.json')).digest('hex');
if (!existsSync('node_modules') || !existsSync(lock) || readFileSync(lock, 'utf8') !== wanted) {
	console.log('Installing …');
	run('npm', ['install', '--no-audit', '--no-fund', '--loglevel=error']);
	writeFileSync(lock, wanted);
}
const built = buildName();
if (
	!existsSync('build/index.js') ||
	!existsSync('dist/even-thread.mjs') ||
	!existsSync(stamp) ||
	readFileSync(stamp, 'utf8') !== built
) {
	console.log('Building …');
	run('npm', ['run', '--silent', 'build']);
	writeFileSync(stamp, buildName());
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
