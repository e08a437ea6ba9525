/** The table of operations' trays: a new operation is a line here. */
import type { Component } from 'svelte';
import type { Bench } from '$lib/stores/bench.svelte';
import type { Operation } from '$lib/stores/operations/operation.svelte';
import type { OperationKind } from '$lib/stores/operations/starting';
import AllowanceTray from './AllowanceTray.svelte';
import BridgeTray from './BridgeTray.svelte';
import CombineTray from './CombineTray.svelte';
import CornerTray from './CornerTray.svelte';
import CornerBetweenTray from './CornerBetweenTray.svelte';
import ExtendTray from './ExtendTray.svelte';
import FairTray from './FairTray.svelte';
import JoinTray from './JoinTray.svelte';
import MeetTray from './MeetTray.svelte';
import OffsetTray from './OffsetTray.svelte';
import PartTray from './PartTray.svelte';
import PlaceTray from './PlaceTray.svelte';
import SimplifyTray from './SimplifyTray.svelte';
import TraceTray from './TraceTray.svelte';
import TrimTray from './TrimTray.svelte';

type Tray = Component<{ bench: Bench; operation: Operation }>;

const TRAYS = {
	trace: TraceTray,
	simplify: SimplifyTray,
	fair: FairTray,
	offset: OffsetTray,
	allowance: AllowanceTray,
	combine: CombineTray,
	join: JoinTray,
	trim: TrimTray,
	corner: CornerTray,
	meet: MeetTray,
	bridge: BridgeTray,
	place: PlaceTray,
	extend: ExtendTray,
	part: PartTray,
	'corner-between': CornerBetweenTray
} satisfies Record<OperationKind, unknown>;

/** The tray of an operation that lies on the bench. */
export const trayOf = (operation: Operation): Tray =>
	TRAYS[operation.kind as OperationKind] as unknown as Tray;
