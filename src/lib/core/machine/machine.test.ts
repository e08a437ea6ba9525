/** The simulated machine and its driver: limits, states, and connections that drop at random moments. */
import { describe, expect, test } from 'vitest';
import { circlePath, polygonPath } from '../geometry/path';
import { finish } from '../progress';
import { readGcode } from '../formats/gcode-read';
import { writeGcode } from '../formats/gcode-write';
import { readHpgl } from '../formats/hpgl-read';
import { writeHpgl } from '../formats/hpgl-write';
import { cutsApart } from '../toolpath/judge';
import { FEED, lengthsOf } from '../toolpath/moves';
import { planSteps } from '../toolpath/plan';
import { seeded } from '../chance';
import { Driver, messagesOf, type Standing } from './driver';
import { movesFromPlain, plainMoves, StandIn, type StandInLimits } from './stand-in';

const ROUTER: StandInLimits = {
	width: 300,
	height: 200,
	below: 20,
	above: 20,
	rapid: 3000,
	language: 'gcode',
	room: 16
};
const PLOTTER: StandInLimits = { ...ROUTER, language: 'hpgl', room: 256 };

const LINES = [
	{ path: circlePath(60, 60, 40), name: 'disc' },
	{ path: circlePath(60, 60, 12), name: 'disc, hole' },
	{ path: polygonPath([130, 30, 220, 30, 220, 90, 175, 120, 130, 90]), name: 'house' }
];
const planned = (settings: object) => {
	const plan = finish(
		planSteps(
			{ lines: LINES, sheet: { width: 300, height: 200 } },
			{ tool: { kind: 'cutter', diameter: 3 }, side: 'outside', feed: 900, depth: 4, pass: 2, ...settings }
		)
	);
	if (!plan.ok) throw new Error(plan.problem.sentence);
	return plan.value;
};
const CUTTER = { kind: 'cutter', diameter: 3 } as const;
const ROUTED = planned({});
const GCODE = writeGcode([{ moves: ROUTED.moves, tool: CUTTER, speed: 12000 }]);

const nobodyWaits = { pause: () => Promise.resolve() };

/** Sends a job while time goes on a little with each message. */
function station(limits: StandInLimits, step = 400) {
	const machine = new StandIn(limits);
	let now = 0;
	const carry = (message: string) => {
		now += step;
		return Promise.resolve(machine.answer(message, 'me', now));
	};
	return { machine, carry, later: (ms: number) => (now += ms) };
}

describe('a job sent line by line', () => {
	test('what was cut is the job, to the file’s digits', async () => {
		const { machine, carry } = station(ROUTER);
		const driver = new Driver(carry, nobodyWaits);
		expect(await driver.begin('the owl')).toEqual({ ok: true });
		expect(await driver.send(messagesOf(GCODE, 'gcode'))).toEqual({ ok: true });
		const job = readGcode(GCODE).moves;
		expect(cutsApart(machine.trail, job)).toBeLessThan(0.01);
		expect(lengthsOf(machine.trail).cut).toBeCloseTo(lengthsOf(job).cut, 3);
		// Nothing was cut with the spindle standing.
		const { trail } = machine;
		for (let i = 0; i < trail.kinds.length; i++) if (trail.kinds[i] === FEED) expect(trail.on[i]).toBe(1);
		expect(movesFromPlain(plainMoves(trail)).kinds).toEqual(trail.kinds);
	});

	test('a connection that drops 200 times cuts nothing twice and leaves nothing out', async () => {
		const job = readGcode(GCODE).moves;
		const messages = messagesOf(GCODE, 'gcode');
		let dropped = 0;
		for (let run = 0; dropped < 200; run++) {
			const chance = seeded(run + 1);
			const { machine, carry } = station(ROUTER, 150);
			const driver = new Driver(async (message) => {
				const fate = chance();
				if (fate < 0.08) {
					dropped++;
					throw new Error('dropped on the way there');
				}
				const answer = await carry(message);
				if (fate < 0.16) {
					dropped++;
					throw new Error('dropped on the way back');
				}
				return answer;
			}, nobodyWaits);
			expect(await driver.begin('the owl')).toEqual({ ok: true });
			expect(await driver.send(messages)).toEqual({ ok: true });
			expect(cutsApart(machine.trail, job)).toBeLessThan(0.01);
			expect(Math.abs(lengthsOf(machine.trail).cut - lengthsOf(job).cut)).toBeLessThan(0.01);
		}
	});

	test('a plotter with its buffer gets a plot, to its unit', async () => {
		const plan = planned({
			tool: { kind: 'knife', offset: 0.25 },
			side: 'on',
			depth: undefined,
			pass: undefined
		});
		const text = writeHpgl(plan.moves, 0.0025);
		const chance = seeded(7);
		const { machine, carry } = station(PLOTTER);
		const driver = new Driver(async (message) => {
			if (chance() < 0.05) throw new Error('dropped');
			return carry(message);
		}, nobodyWaits);
		await driver.begin('a plot');
		expect(await driver.send(messagesOf(text, 'hpgl'))).toEqual({ ok: true });
		expect(cutsApart(machine.trail, plan.moves)).toBeLessThan(0.01 + 0.018);
		expect(lengthsOf(machine.trail).cut).toBeCloseTo(lengthsOf(readHpgl(text).moves).cut, 6);
	});
});

describe('the machine itself', () => {
	const ready = () => {
		const made = station(ROUTER, 0);
		const say = (message: string, token = 'me') => made.machine.answer(message, token, made.later(0));
		const where = () => JSON.parse(say('where').slice(3)) as Standing;
		say('hello tester');
		say('new');
		return { ...made, say, where };
	};
	const START = ['G21 G90 G17', 'M3 S12000', 'G0 Z5', 'G1 X100 F600'];
	const begin = (say: (m: string) => string) => START.map((line, i) => say(`line ${i + 1} ${line}`));

	test('each answer tells how many lines it can still take, and more are not taken', () => {
		const { say } = ready();
		expect(begin(say)[3]).toMatch(/^ok 4 room \d+$/);
		for (let n = 5; n < 5 + ROUTER.room; n++) say(`line ${n} X${n}`);
		expect(say(`line ${4 + ROUTER.room + 1} X1`)).toMatch(/^(wait|again)/);
	});

	test('a line said twice is done once, one too early is asked for again', () => {
		const { say, where } = ready();
		begin(say);
		expect(say('line 4 G1 X100 F600')).toMatch(/^ok 4/);
		expect(where().taken).toBe(4);
		expect(say('line 9 X3')).toBe('again 5');
	});

	test('it holds, goes on, goes slower, and stops', () => {
		const { say, where, later } = ready();
		begin(say);
		later(5000);
		// 600 mm/min: 10 mm a second, after the way up.
		const before = where().x;
		expect(before).toBeGreaterThan(40);
		say('hold');
		later(5000);
		expect(where()).toMatchObject({ state: 'holding', x: before });
		say('on');
		say('slow 50');
		later(2000);
		expect(where().x - before).toBeCloseTo(10, 1);
		say('stop');
		later(5000);
		expect(where().state).toBe('halted');
		expect(say('line 5 X10')).toMatch(/^halted/);
		expect(say('new')).toMatch(/^ok/);
	});

	test('it refuses what lies beyond its limits, and stops', () => {
		const { say, where } = ready();
		begin(say);
		expect(say('line 5 G1 X301')).toContain('refused 5');
		expect(where().state).toBe('halted');
		const deep = ready();
		begin(deep.say);
		expect(deep.say('line 5 G1 Z-21')).toContain('a height');
		const bulging = ready();
		begin(bulging.say);
		// An arc that ends within and bulges over the edge.
		expect(bulging.say('line 5 G2 X100 Y100 I0 J50')).toMatch(/^ok|^refused/);
		expect(bulging.say('line 6 G3 X290 Y199 I100 J0 ')).toContain('refused');
	});

	test('it stops when its cover is opened, and goes on where it was', () => {
		const { say, where, later } = ready();
		begin(say);
		later(3000);
		const { x } = where();
		say('cover open', 'somebody beside it');
		later(3000);
		expect(where()).toMatchObject({ state: 'open', x });
		say('cover close', 'somebody beside it');
		expect(where().state).toBe('holding');
		say('on');
		later(60_000);
		expect(where()).toMatchObject({ state: 'resting', x: 100 });
	});

	test('without power it forgets the job and must be sent home', () => {
		const { say, where, later } = ready();
		begin(say);
		later(2000);
		say('power off', 'a child');
		expect(say('line 5 X1')).toMatch(/^dark/);
		say('power on', 'a child');
		expect(where()).toMatchObject({ state: 'halted', lost: true });
		say('hello tester');
		expect(say('new')).toMatch(/^lost/);
		say('home');
		expect(say('new')).toMatch(/^ok/);
	});

	test('two do not drive it', () => {
		const { say, machine } = ready();
		begin(say);
		expect(say('hello other', 'you')).toBe('taken tester');
		expect(say('line 5 X1', 'you')).toBe('taken tester');
		// One that is silent and does nothing may be followed.
		expect(machine.answer('hello other', 'you', 120_000)).toMatch(/^yours/);
	});

	test('nonsense is refused in one sentence', () => {
		const { say } = ready();
		begin(say);
		expect(say('line 5 what?')).toMatch(/^refused 5 ".*" is not understood\.$/);
		expect(say('line x')).toMatch(/^unknown/);
		expect(say('fly')).toMatch(/^unknown/);
		expect(say('slow 0')).toMatch(/^refused/);
		expect(say('hurry -3')).toMatch(/^refused/);
	});

	test('a refused line is told to whoever sends the job', async () => {
		const { carry } = station(ROUTER);
		const driver = new Driver(carry, nobodyWaits);
		await driver.begin('a job');
		const sent = await driver.send(['G21 G90 G17', 'G0 Z5', 'G0 X500']);
		expect(sent).toMatchObject({ ok: false, kind: 'refused' });
	});
});
