/** The table of operations' trays, each loaded when it is first needed: a new operation is a line here. */
import type { Component } from 'svelte';
import type { Bench } from '$lib/stores/bench.svelte';
import type { Operation } from '$lib/stores/operations/operation.svelte';
import type { OperationKind } from '$lib/stores/operations/starting';

type Tray = Component<{ bench: Bench; operation: Operation }>;

const TRAYS = {
	trace: () => import('./TraceTray.svelte'),
	simplify: () => import('./SimplifyTray.svelte'),
	fair: () => import('./FairTray.svelte'),
	offset: () => import('./OffsetTray.svelte'),
	allowance: () => import('./AllowanceTray.svelte'),
	combine: () => import('./CombineTray.svelte'),
	join: () => import('./JoinTray.svelte'),
	trim: () => import('./TrimTray.svelte'),
	corner: () => import('./CornerTray.svelte'),
	meet: () => import('./MeetTray.svelte'),
	bridge: () => import('./BridgeTray.svelte'),
	place: () => import('./PlaceTray.svelte'),
	align: () => import('./AlignTray.svelte'),
	extend: () => import('./ExtendTray.svelte'),
	part: () => import('./PartTray.svelte'),
	'corner-between': () => import('./CornerBetweenTray.svelte'),
	machine: () => import('../machine/MachineTray.svelte'),
	scanned: () => import('../machine/ScannedTray.svelte'),
	fits: () => import('../machine/FitsTray.svelte'),
	seams: () => import('./SeamsTray.svelte'),
	between: () => import('./BetweenTray.svelte'),
	repeat: () => import('./RepeatTray.svelte'),
	symmetry: () => import('./SymmetryTray.svelte'),
	arrange: () => import('../sheets/ArrangeTray.svelte'),
	paper: () => import('../sheets/PaperTray.svelte')
} satisfies Record<
	| OperationKind
	| 'machine'
	| 'scanned'
	| 'fits'
	| 'arrange'
	| 'paper'
	| 'align'
	| 'repeat'
	| 'symmetry'
	| 'between'
	| 'seams',
	unknown
>;

const loaded = new Map<string, Promise<Tray>>();

/** The tray of a kind of operation. */
export function trayOf(kind: string): Promise<Tray> {
	let tray = loaded.get(kind);
	if (!tray) {
		tray = TRAYS[kind as OperationKind]().then((module) => module.default as unknown as Tray);
		// One that could not be loaded is tried again the next time.
		tray.catch(() => loaded.delete(kind));
		loaded.set(kind, tray);
	}
	return tray;
}

/** Loads all trays while nothing else is to be done, so that none is waited for. */
export function loadTrays(): void {
	for (const kind of Object.keys(TRAYS)) void trayOf(kind).catch(() => undefined);
}
