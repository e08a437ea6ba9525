/** The page's side of the geometry workers: one for what a person waits for, one for the check behind it. */
import * as Comlink from 'comlink';
import type { GeometryApi } from './geometry.protocol';

function start(): Comlink.Remote<GeometryApi> {
	return Comlink.wrap<GeometryApi>(
		new Worker(new URL('./geometry.worker.ts', import.meta.url), { type: 'module' })
	);
}

let hand: Comlink.Remote<GeometryApi> | undefined;
let check: Comlink.Remote<GeometryApi> | undefined;

export function geometryWorker(): Comlink.Remote<GeometryApi> {
	return (hand ??= start());
}

export function checkWorker(): Comlink.Remote<GeometryApi> {
	return (check ??= start());
}

export const proxy = Comlink.proxy;
