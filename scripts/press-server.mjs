// The server pressed: many uploads at once, slow ones that never end, others that want an answer meanwhile.
//   npm run press   (SECONDS=60, UPLOADS=50, SLOW=100; after npm run build)
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { connect } from 'node:net';

const SECONDS = Number(process.env.SECONDS ?? 60);
const UPLOADS = Number(process.env.UPLOADS ?? 50);
const SLOW = Number(process.env.SLOW ?? 100);
const port = 4196;
const base = `http://127.0.0.1:${port}`;
let isOver = false;
const server = spawn('node', ['scripts/serve.mjs'], {
	env: { ...process.env, HOST: '127.0.0.1', PORT: String(port), ORIGIN: base },
	stdio: ['ignore', 'ignore', 'inherit']
});
server.on('exit', (code, signal) => isOver || console.log(`the server ended with ${code ?? signal}`));
const pause = (ms) => new Promise((done) => setTimeout(done, ms));
const health = async () => (await fetch(`${base}/api/health`)).json();
for (let k = 0; k < 50; k++)
	if (
		await health().then(
			() => true,
			() => pause(100).then(() => false)
		)
	)
		break;
const { megabytes: before } = await health();

const picture = readFileSync('static/demo/fox-puppet.jpg');
const answers = new Map();
const count = (word) => answers.set(word, (answers.get(word) ?? 0) + 1);
async function uploads() {
	while (!isOver) {
		try {
			const answer = await fetch(`${base}/api/trace?px-per-mm=8`, {
				method: 'POST',
				headers: { 'content-type': 'image/jpeg' },
				body: picture
			});
			const told = await answer.json();
			count(answer.ok ? 'traced' : `${told.problem?.code}: ${told.problem?.sentence?.slice(0, 90)}`);
			if (answer.status === 503) await pause(500);
		} catch (error) {
			count(`lost: ${error.cause?.code ?? error.message}`);
		}
	}
}
/** A body that comes a byte a second and would never end. */
async function slowly() {
	while (!isOver) {
		await new Promise((done) => {
			const socket = connect(port, '127.0.0.1');
			const drip = setInterval(
				() => (isOver ? socket.destroy() : socket.writable && socket.write('x')),
				1000
			);
			socket.on('error', () => undefined);
			socket.on('data', () => undefined);
			socket.on('close', () => (clearInterval(drip), count('slow ones let go of'), done()));
			socket.write(
				`POST /api/machine/gcode HTTP/1.1\r\nhost: 127.0.0.1:${port}\r\norigin: ${base}\r\ncontent-type: text/plain\r\ncontent-length: 9999\r\n\r\n`
			);
		});
	}
}
const waits = [];
async function others() {
	while (!isOver) {
		for (const place of ['/', '/api/health', '/api/scanner', '/demo/fox-parts.svg']) {
			const began = performance.now();
			try {
				await (await fetch(base + place)).arrayBuffer();
				waits.push(performance.now() - began);
			} catch (error) {
				count(`others lost: ${error.cause?.code ?? error.message}`);
			}
		}
		await pause(200);
	}
}
let most = 0;
const watch = setInterval(
	() =>
		void health().then(
			({ megabytes }) => (most = Math.max(most, megabytes)),
			() => undefined
		),
	1000
);
const work = [...Array.from({ length: UPLOADS }, uploads), ...Array.from({ length: SLOW }, slowly), others()];
await pause(1000 * SECONDS);
isOver = true;
clearInterval(watch);
await Promise.race([Promise.all(work), pause(70_000)]);
waits.sort((a, b) => a - b);
const at = (share) => Math.round(waits[Math.min(waits.length - 1, Math.floor(share * waits.length))]);
console.log(
	`${SECONDS} s, ${UPLOADS} uploads and ${SLOW} slow ones at once: ${[...answers].map(([w, n]) => `${w} ${n}`).join(', ')}`
);
console.log(
	`others were answered in ${at(0.5)} ms (median of ${waits.length}), ${at(0.95)} ms (95th), ${at(1)} ms (the longest)`
);

// A picture that nobody waits for any more.
const stops = [];
for (let k = 0; k < 5; k++) {
	for (let now = await health(); now.running + now.waiting > 0; now = await health()) await pause(100);
	const socket = connect(port, '127.0.0.1');
	socket.on('error', () => undefined);
	socket.write(
		`POST /api/trace?px-per-mm=8 HTTP/1.1\r\nhost: 127.0.0.1:${port}\r\norigin: ${base}\r\ncontent-type: image/jpeg\r\ncontent-length: ${picture.length}\r\n\r\n`
	);
	socket.write(picture);
	while ((await health()).running === 0) await pause(5);
	await pause(150);
	const began = performance.now();
	socket.destroy();
	while ((await health()).running > 0) await pause(5);
	stops.push(performance.now() - began);
}
console.log(`abandoned work stopped after ${Math.round(Math.max(...stops))} ms at most (of 5)`);
await pause(20_000);
const { megabytes: after } = await health();
console.log(`memory: ${before} MB before, ${most} MB at most, ${after} MB after 20 s of rest`);
const ended = performance.now();
const exit = new Promise((done) => server.on('exit', done));
server.kill('SIGTERM');
console.log(`told to end it ended with ${await exit} after ${Math.round(performance.now() - ended)} ms`);
process.exit(0);
