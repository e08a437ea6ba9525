// More than one machine: a server, a Redis, workers; pictures sent all at once, a worker killed over its work, the same asked twice.
//   npm run press:queue   (PICTURES=24; after npm run build; fetches Debian's redis-server where it is missing)
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';

const PICTURES = Number(process.env.PICTURES ?? 24);
const [REDIS_PORT, PORT] = [6399, 4197];
const REDIS_URL = `redis://127.0.0.1:${REDIS_PORT}`;
const base = `http://127.0.0.1:${PORT}`;
const pause = (ms) => new Promise((done) => setTimeout(done, ms));

if (spawnSync('redis-server', ['--version']).error)
	execFileSync('apt-get', ['install', '-y', 'redis-server'], { stdio: ['ignore', 'ignore', 'inherit'] });

const folder = mkdtempSync(join(tmpdir(), 'even-thread-redis-'));
const children = new Set();
function start(command, args, env = {}) {
	const child = spawn(command, args, {
		env: { ...process.env, REDIS_URL, ...env },
		stdio: ['ignore', 'ignore', 'inherit']
	});
	children.add(child);
	child.on('exit', () => children.delete(child));
	return child;
}
const ended = (child) =>
	new Promise((done) => ((child.exitCode ?? child.signalCode) !== null ? done() : child.on('exit', done)));
async function answers(ask, what) {
	for (let k = 0; k < 200; k++)
		if (
			await ask().then(
				() => true,
				() => pause(100).then(() => false)
			)
		)
			return;
	throw new Error(`${what} does not answer`);
}
const health = async () => (await fetch(`${base}/api/health`)).json();
const worker = () => start('node', ['dist/trace-worker.mjs'], { AT_ONCE: '1' });

/** A picture of its own for each number: discs of many sizes. */
function drawn(seed) {
	let s = seed * 7919 + 1;
	const r = () => (s = (s * 48271) % 2147483647) / 2147483647;
	const discs = Array.from(
		{ length: 220 },
		(_, k) => `<circle cx="${(k % 20) * 60 + 30}" cy="${Math.floor(k / 20) * 60 + 30}" r="${8 + 20 * r()}"/>`
	);
	return sharp(
		Buffer.from(
			`<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="660"><rect width="1200" height="660" fill="#fff"/>${discs.join('')}</svg>`
		)
	)
		.png()
		.toBuffer();
}
async function send(picture, signal) {
	const answer = await fetch(`${base}/api/trace?px-per-mm=8`, {
		method: 'POST',
		headers: { 'content-type': 'image/png' },
		body: picture,
		signal
	});
	return { status: answer.status, told: await answer.json() };
}

let faults = 0;
function check(what, isRight) {
	console.log(`${isRight ? 'ok    ' : 'FAULT '} ${what}`);
	if (!isRight) faults++;
}
try {
	start('redis-server', ['--port', String(REDIS_PORT), '--dir', folder, '--save', '', '--appendonly', 'no']);
	start('node', ['scripts/serve.mjs'], { HOST: '127.0.0.1', PORT: String(PORT), ORIGIN: base });
	await answers(health, 'the server');

	let seed = 1;
	const pictures = (count) => Promise.all(Array.from({ length: count }, () => drawn(seed++)));
	const workers = [];
	for (let count = 1; count <= 3; count++) {
		workers.push(worker());
		// The new one has begun when a picture comes back.
		await send((await pictures(1))[0]);
		await pause(1500);
		const list = await pictures(PICTURES);
		const from = performance.now();
		const got = await Promise.all(list.map((picture) => send(picture)));
		const seconds = (performance.now() - from) / 1000;
		check(
			`${count} ${count === 1 ? 'worker' : 'workers'}: ${PICTURES} pictures in ${seconds.toFixed(1)} s, ${((60 * PICTURES) / seconds).toFixed(0)} a minute`,
			got.every(({ status, told }) => status === 200 && told.facts.outlines === 220)
		);
	}

	// What was traced before is known.
	const [again] = await pictures(1);
	const first = await send(again);
	const from = performance.now();
	const second = await send(again);
	check(
		`asked again: the same, in ${Math.round(performance.now() - from)} ms`,
		JSON.stringify(first) === JSON.stringify(second)
	);

	// Two who ask for the same at once; a worker killed over its work.
	const list = await pictures(PICTURES);
	const asked = Promise.all([...list, list[0], list[1]].map((picture) => send(picture)));
	await pause(1200);
	workers[1].kill('SIGKILL');
	const got = await asked;
	check(
		`a worker killed over its work: all ${got.length} traced all the same`,
		got.every(({ status, told }) => status === 200 && told.facts.outlines === 220)
	);

	// Given up by who asked.
	const gone = new AbortController();
	const many = await pictures(12);
	const lost = many.map((picture) => send(picture, gone.signal).catch(() => 'gone'));
	await pause(800);
	gone.abort();
	await Promise.all(lost);
	let load;
	const since = performance.now();
	do {
		await pause(100);
		load = await health();
	} while ((load.running || load.waiting) && performance.now() - since < 10_000);
	check(
		`given up: nothing is traced or waits any more after ${Math.round(performance.now() - since)} ms`,
		!load.running && !load.waiting
	);

	// A picture that is none is told so, once for all.
	const bad = await send(Buffer.from('no picture at all'));
	check(`what is no picture: ${bad.status}, "${bad.told.problem?.sentence}"`, bad.status === 400);

	// Told to end, a worker ends what it has in hand.
	workers[0].kill('SIGTERM');
	await ended(workers[0]);
	check(`a worker told to end ends with ${workers[0].exitCode}`, workers[0].exitCode === 0);
} finally {
	for (const child of children) child.kill('SIGKILL');
	rmSync(folder, { recursive: true, force: true });
}
console.log(faults ? `${faults} faults` : 'no faults');
process.exit(faults ? 1 : 0);
