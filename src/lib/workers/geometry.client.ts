/** The page's side of the geometry workers: one for what a person waits for, one for the check behind it. */
import * as Comlink from 'comlink';
import type { GeometryApi } from './geometry.protocol';

interface Started {
	readonly worker: Worker;
	readonly api: Comlink.Remote<GeometryApi>;
}

function start(): Started {
	const worker = new Worker(new URL('./geometry.worker.ts', import.meta.url), { type: 'module' });
	return { worker, api: Comlink.wrap<GeometryApi>(worker) };
}

let hand: Started | undefined;
let check: Started | undefined;

export function geometryWorker(): Comlink.Remote<GeometryApi> {
	return (hand ??= start()).api;
}

/**
 * Ends whatever the geometry worker is computing, in the middle of it; the next request starts another. What was asked
 * of the old one is never answered.
 */
export function restartGeometryWorker(): void {
	hand?.worker.terminate();
	hand = undefined;
}

export function checkWorker(): Comlink.Remote<GeometryApi> {
	return (check ??= start()).api;
}

export const proxy = Comlink.proxy;
