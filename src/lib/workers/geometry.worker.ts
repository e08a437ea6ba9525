import * as Comlink from 'comlink';
import { WORK, type WorkName } from '../core/operations/work';
import { isFailure, toProblem } from '../core/errors';
import { breathe, drive, Stale } from './drive';
import type { GeometryApi } from './geometry.protocol';
import { Keeper } from './kept';

// The newest request of each line; older ones are stale.
const newest = new Map<string, number>();
const keeper = new Keeper();

const api: GeometryApi = {
	async run(name, line, request, args, tell) {
		newest.set(line, Math.max(newest.get(line) ?? 0, request));
		// What is stale is unpacked all the same: later requests name its lines by their numbers.
		const whole = keeper.unpack(args);
		const isStale = () => request < (newest.get(line) ?? 0);
		// Requests that came in meanwhile are read first: only the last of a flurry is computed.
		await breathe();
		if (isStale()) return { ok: 'stale' };
		try {
			const work = WORK[name as WorkName] as (...all: unknown[]) => Generator<unknown, unknown>;
			const value = await drive(work(...whole), isStale, (progress) => tell?.(progress as never));
			// Work that may ordinarily fail says so itself.
			if (isFailure(value)) return value;
			return { ok: true, value: isSuccess(value) ? value.value : value } as never;
		} catch (error) {
			if (error instanceof Stale) return { ok: 'stale' };
			return { ok: false, problem: toProblem(error) };
		}
	},
	forget(numbers) {
		keeper.forget(numbers);
	},
	stop(line, request) {
		newest.set(line, Math.max(newest.get(line) ?? 0, request + 1));
	}
};

const isSuccess = (value: unknown): value is { ok: true; value: unknown } =>
	typeof value === 'object' && value !== null && 'ok' in value && value.ok === true;

Comlink.expose(api);
