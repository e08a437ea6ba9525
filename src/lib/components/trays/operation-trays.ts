/** The table of operations' trays, each loaded when it is first needed: a new operation is a line here. */
import type { Component } from 'svelte';
import type { Bench } from '$lib/stores/bench.svelte';
import type { Operation } from '$lib/stores/operations/operation.svelte';
import type { OperationKind } from '$lib/stores/operations/starting';
import { Later } from '../parts/later';

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
	compare: () => import('./CompareTray.svelte'),
	band: () => import('./BandTray.svelte'),
	between: () => import('./BetweenTray.svelte'),
	repeat: () => import('./RepeatTray.svelte'),
	facing: () => import('./FacingTray.svelte'),
	rosette: () => import('./RosetteTray.svelte'),
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
	| 'facing'
	| 'rosette'
	| 'symmetry'
	| 'band'
	| 'corner-between'
	| 'bridge'
	| 'between'
	| 'seams'
	| 'compare',
	unknown
>;

const trays = new Later<keyof typeof TRAYS, Tray>(TRAYS);

/** The tray of a kind of operation. */
export const trayOf = (kind: string): Promise<Tray> => trays.of(kind as keyof typeof TRAYS);

/** What a station offers where no operation is open. */
const STATIONS = {
	picture: () => import('./PictureTray.svelte'),
	size: () => import('./SizeTray.svelte'),
	sheet: () => import('./SheetsRow.svelte'),
	cut: () => import('./CutTray.svelte'),
	faults: () => import('./FaultsRow.svelte'),
	moving: () => import('./MovingRow.svelte'),
	look: () => import('./LookTray.svelte')
};
const stationTrays = new Later<keyof typeof STATIONS, Component<{ bench: Bench }>>(STATIONS);
export const stationTray = (word: keyof typeof STATIONS): Promise<Component<{ bench: Bench }>> =>
	stationTrays.of(word);

/** Loads all trays while nothing else is to be done, so that none is waited for. */
export async function loadTrays(): Promise<void> {
	await stationTrays.loadAll();
	await trays.loadAll();
}
