// A square of 40 mm cut out of 4 mm plywood with a cutter of 3 mm, as G-code.
import { finish, planSteps, polygonPath, unwrap, writeGcode } from 'even-thread-core';

const square = polygonPath([10, 10, 50, 10, 50, 50, 10, 50]);
const tool = { kind: 'cutter', diameter: 3 };
const plan = unwrap(
	finish(
		planSteps(
			{ lines: [{ path: square, name: 'square' }], sheet: { width: 60, height: 60 } },
			{ tool, side: 'outside', feed: 900, plunge: 300, speed: 18_000, depth: 4, pass: 2 }
		)
	)
);
console.log(writeGcode([{ moves: plan.moves, tool, speed: 18_000, names: ['square'] }], { name: 'square' }));
