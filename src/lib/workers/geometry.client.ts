/** The page's side of the geometry workers: one for what a person waits for, one for what goes on behind it. */
import * as Comlink from 'comlink';
import type { WorkArguments, WorkName, WorkProgress, WorkValue } from '../core/operations/work';
import type { GeometryApi } from './geometry.protocol';
import { Sender } from './kept';
import type { Answer } from './picture.protocol';

let requests = 0;

/** Numbers requests to workers, so that the newest wins. */
export function nextRequest(): number {
	return ++requests;
}

/** What work gives; where it may ordinarily fail, the value or the problem. */
export type Value<N extends WorkName> =
	WorkValue<N> extends { ok: true; value: infer T } | { ok: false } ? T : WorkValue<N>;

/** Work under way. */
export interface Task<N extends WorkName> {
	readonly answer: Promise<Answer<Value<N>>>;
	/** Ends it at its next step; the answer is stale then. */
	stop(): void;
}

export class GeometryClient {
	private api: Comlink.Remote<GeometryApi> | undefined;
	private readonly sender = new Sender();

	private started(): Comlink.Remote<GeometryApi> {
		return (this.api ??= Comlink.wrap<GeometryApi>(
			new Worker(new URL('./geometry.worker.ts', import.meta.url), { type: 'module' })
		));
	}

	/** Has work done. A newer request on the same line (by its name where none is given) makes it stale. */
	run<N extends WorkName>(
		name: N,
		args: WorkArguments<N>,
		options: { readonly line?: string; readonly tell?: (progress: WorkProgress<N>) => void } = {}
	): Task<N> {
		const { line = name, tell } = options;
		const request = nextRequest();
		const api = this.started();
		const gone = this.sender.takeGone();
		if (gone.length) void api.forget(gone);
		const answer = api.run(
			name,
			line,
			request,
			this.sender.pack(args) as never,
			(tell && Comlink.proxy(tell)) as never
		);
		return {
			answer: answer as unknown as Promise<Answer<Value<N>>>,
			stop: () => void api.stop(line, request)
		};
	}
}

export const hand = new GeometryClient();
export const behind = new GeometryClient();
export const proxy = Comlink.proxy;
