/** The reckoning of bridges. */
import { CoreError, done, failed } from '../../errors';
import { bridgeBetween, type Leaving } from '../../fit/bridge';
import { STRIDE } from '../../geometry/path';
import { curvatureAt, directionAt } from '../../geometry/segment';
import { bridgeLate } from './bridge';
import { endNow, type EndOf } from './line-ends';
import type { InputLine } from './recipe-type';

/** An end as a bridge leaves it: on from where its line stops. */
function leavingAt(inputs: readonly InputLine[], end: EndOf): Leaving {
	const { types, segs } = inputs[end.line].path;
	const isStart = endNow(inputs, end) === 'start';
	const i = isStart ? 0 : types.length - 1;
	const t = isStart ? 0 : 1;
	const d = directionAt(types[i], segs, STRIDE * i, t);
	const bend = curvatureAt(types[i], segs, STRIDE * i, t);
	const at = STRIDE * i + (isStart ? 0 : 6);
	const sign = isStart ? -1 : 1;
	return { x: segs[at], y: segs[at + 1], dx: sign * d.x, dy: sign * d.y, bend: sign * bend };
}

bridgeLate.provide({
	*resolve(inputs, { ends }) {
		yield 0;
		if (ends.some(({ line }) => inputs[line].path.closed || inputs[line].path.types.length === 0))
			return failed('no-end', 'A line that it bridges has no end any more: it was closed, or is empty.');
		try {
			const path = bridgeBetween(leavingAt(inputs, ends[0]), leavingAt(inputs, ends[1]), ends);
			return done([{ path, part: '' }]);
		} catch (error) {
			if (error instanceof CoreError) return failed(error.code, error.message);
			throw error;
		}
	}
});
