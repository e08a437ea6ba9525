<script lang="ts">
	/** The drawing surface: hands pointer events to the hand, scenes to the stage. */
	import type { Point } from '$lib/core/geometry/point';
	import { untrack } from 'svelte';
	import { controlPolygon } from '$lib/core/document/edits/control-polygon';
	import { shown } from '$lib/core/document/output';
	import { onPaper } from '$lib/core/document/edits/placement';
	import { isEmptyBox } from '$lib/core/geometry/measure';
	import { toScreen } from '$lib/render/view';
	import { DrawingStage } from '$lib/render/stage';
	import type { Looked, Scene } from '$lib/render/scene';
	import type { Palette } from '$lib/render/palette';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { fastPlaces, holdMarks } from '$lib/stores/holds-here';
	import type { PointerKind } from '$lib/stores/gestures/pointer';
	import { Hand } from '$lib/stores/gestures/hand';
	import type { PointerAt } from '$lib/stores/gestures/pointer';
	import { WAYS } from '$lib/stores/key-pointer.svelte';
	import { touch } from '$lib/stores/touch.svelte';

	let { bench, palette }: { bench: Bench; palette: Palette } = $props();

	let container = $state<HTMLDivElement>();
	let spaceHeld = $state(false);
	let tick = $state(0);
	const hand = untrack(() => new Hand(bench, () => tick++));
	let stage = $state.raw<DrawingStage | undefined>();
	const touches = new Map<number, Point>();
	let pinch: { distance: number; x: number; y: number } | undefined;
	let pressed: { time: number; x: number; y: number } | undefined;
	/** A finger that rests opens the menu. */
	let resting: { timer: ReturnType<typeof setTimeout>; x: number; y: number } | undefined;
	const REST_MS = 550;
	const REST_PX = 9;
	function stopResting(): void {
		clearTimeout(resting?.timer);
		resting = undefined;
	}

	const NOTHING: ReadonlySet<string> = new Set();
	const replaced = $derived(bench.operation?.replaced ?? NOTHING);
	/** Where the reach of a soft pull ends, on the line. */
	const reachMarks = $derived(bench.movingWay === 'soft' && !bench.operation ? bench.reachPlaces() : []);
	const picks = $derived.by(() => {
		const { sizing } = bench.pictures;
		const reference = sizing && bench.references.find((r) => r.id === sizing.reference);
		if (!sizing || !reference) return [];
		return sizing.points.map((p) => onPaper(reference, p.x, p.y));
	});

	/** What is looked at closely. */
	function looked(): Looked {
		const { looking } = bench;
		const kept = (id: string | undefined) => {
			const record = id === undefined ? undefined : bench.drawing.records.get(id);
			return record?.type === 'line' ? [record.path] : [];
		};
		return {
			combs: looking.showsComb ? looking.combs : [],
			gain: looking.gain,
			marks: looking.marks,
			tight: looking.tight,
			place: looking.place,
			number: looking.number,
			polygons:
				looking.polygon && !bench.operation
					? bench.selection.enteredOutlines.map((o) => ({ vertices: controlPolygon(o), closed: o.closed }))
					: [],
			ghosts: looking.ghosts ? shown(bench.drawing).flatMap((o) => kept(o.ghost)) : []
		};
	}

	function mount(element: HTMLDivElement) {
		const size = () => ({ widthPx: element.clientWidth, heightPx: element.clientHeight });
		const made = untrack(() => {
			bench.sight.size = size();
			return new DrawingStage(element, bench.sight.size);
		});
		stage = made;
		const observer = new ResizeObserver(() => {
			bench.sight.size = size();
			made.resize(bench.sight.size);
		});
		observer.observe(element);
		container = element;
		return () => {
			observer.disconnect();
			made.destroy();
			stage = undefined;
		};
	}

	let latest: Scene | undefined;
	let frame: number | undefined;
	$effect(() => {
		if (!stage) return;
		void tick;
		const drawing = bench.before ?? bench.operation?.instead ?? bench.shown;
		const scene: Scene = {
			drawing,
			view: bench.sight.view,
			size: bench.sight.size,
			palette,
			unit: bench.unit,
			moving: bench.sight.moving,
			filled: bench.filled,
			grid: bench.grid,
			picturesHidden: bench.pictures.hidden,
			bitmaps: bench.pictures.bitmaps,
			bitmapVersion: bench.pictures.bitmapVersion,
			selected: bench.selection.selected,
			// Outlines that go along with the entered ones because something holds them together.
			carried: bench.drafts.size
				? [...bench.drafts.values()].filter((o) => !bench.selection.enteredIds.includes(o.id))
				: bench.carriedOutlines,
			carriedRepeats: bench.carriedRepeats,
			carriedBy: bench.carried,
			entered: bench.before ? [] : bench.selection.enteredOutlines,
			picked: bench.selection.picked,
			holds: bench.before || bench.operation ? [] : holdMarks(bench),
			fast: bench.before || bench.operation || bench.draft ? [] : fastPlaces(bench),
			given: bench.selection.given && {
				places: bench.selection.given.places,
				frame: bench.selection.given.kind.frame?.(bench.selection.given.settings),
				picked: bench.selection.place
			},
			segments: bench.selection.segments,
			pointed: bench.selection.under,
			handleInHand: bench.selection.handleInHand,
			preview: bench.before ? [] : (bench.operation?.preview ?? bench.pen?.preview ?? []),
			trail: bench.pen?.trail ?? [],
			band: bench.before ? undefined : bench.operation?.driftBand,
			drawn: bench.pen?.kind === 'line' ? bench.pen.lineSoFar(false) : undefined,
			drawnBy: bench.pen?.givenSoFar,
			closing: bench.pen?.closing ? bench.pen.closingPlace : undefined,
			looked: looked(),
			snap: bench.snap,
			bound: bench.bound,
			reachOf: reachMarks,
			frame: bench.operation?.frame,
			under: bench.operation?.under ?? [],
			leftOut: bench.operation?.leftOut ?? (bench.pen?.replacing ? [bench.pen.replacing] : []),
			going: bench.before ? [] : (bench.operation?.going ?? []),
			replaced: bench.before ? NOTHING : replaced,
			following: bench.before ? [] : bench.following.now.lines,
			faint: bench.following.now.faint,
			away: bench.following.now.away,
			seen: bench.operation?.seenPicture && { ...bench.operation.seenPicture, split: bench.pictures.split },
			worst: bench.worst,
			deviations: bench.before ? [] : (bench.operation?.deviations ?? bench.looking.deviations),
			labels: bench.before ? [] : (bench.operation?.labels ?? []),
			doubtful: bench.before ? [] : (bench.operation?.doubtful ?? []),
			rough: bench.operation?.rough ?? false,
			placing: bench.pictures.inHand,
			lasso: hand.lasso,
			// Knots are those of the drawing as it is: none over what it was.
			faults: bench.before || bench.operation?.instead ? [] : bench.readiness.faults,
			faultAt: bench.readiness.at,
			picks,
			box: hand.box,
			hover: hand.hover,
			over: bench.before ? undefined : bench.operation?.over
		};
		latest = scene;
		// What moves with every frame must not put its own picture off: the frame that is asked for shows the newest.
		frame ??= requestAnimationFrame(() => {
			frame = undefined;
			if (latest) stage?.show(latest);
		});
	});

	/** Where what is in hand lies in the window, px. */
	const inHand = $derived.by(() => {
		const { inHand: box, sight } = bench;
		if (isEmptyBox(box)) return undefined;
		const a = toScreen(sight.view, sight.size, box.x0, box.y1);
		const b = toScreen(sight.view, sight.size, box.x1, box.y0);
		return [a.x, a.y, b.x, b.y].map(Math.round).join(' ');
	});

	/** px: how far above the finger lies what it holds by its grip. */
	const GRIP_PX = 64;
	/** Whether a finger puts and draws by a grip just now. */
	const isGripped = () =>
		touch.grip && (bench.pen !== undefined || bench.pictures.sizing !== undefined) && touches.size < 2;
	/** Places are put when the finger is lifted: until then it only looks where they would come. */
	const isLooking = () => isGripped() && !bench.pen?.isStroke;
	/** The ring round the place that a finger holds, px of the window. */
	let ring = $state.raw<Point | undefined>();

	/** ms after a pen was seen in which hands that lie on the glass mean nothing. */
	const PALM_MS = 1200;
	/** px: nobody's fingertip is so broad. */
	const PALM_PX = 60;
	let penSeen = -Infinity;
	const isPalm = (event: PointerEvent) =>
		event.pointerType === 'touch' &&
		(performance.now() - penSeen < PALM_MS || event.width > PALM_PX || event.height > PALM_PX);

	function at(event: PointerEvent | MouseEvent): PointerAt {
		const rect = container!.getBoundingClientRect();
		const type = 'pointerType' in event ? event.pointerType : 'mouse';
		return {
			x: event.clientX - rect.left,
			y: event.clientY - rect.top - (type === 'touch' && isGripped() ? GRIP_PX : 0),
			kind: (['mouse', 'pen', 'touch'].includes(type) ? type : 'mouse') as PointerKind,
			shift: event.shiftKey,
			more: event.shiftKey || bench.pickingMore,
			second: event === secondPress,
			alt: event.altKey,
			ctrl: event.ctrlKey || event.metaKey,
			button: event.button,
			panning: spaceHeld
		};
	}

	/** Two presses count as one double press so near to each other, in time and place; two fingertips' breadths apart they are two. */
	const DOUBLE_MS = 320;
	const DOUBLE_PX = 14;
	let lastPress: { time: number; x: number; y: number } | undefined;
	let secondPress: Event | undefined;
	/** What pressed last: a double tap is answered by its taps, not by the click that the browser makes of them. */
	let lastKind: string | undefined;
	function notePress(event: PointerEvent): void {
		const now = performance.now();
		const isSecond =
			event.button === 0 &&
			lastPress !== undefined &&
			now - lastPress.time < DOUBLE_MS &&
			Math.hypot(event.clientX - lastPress.x, event.clientY - lastPress.y) < DOUBLE_PX;
		secondPress = isSecond ? event : undefined;
		lastPress = isSecond ? undefined : { time: now, x: event.clientX, y: event.clientY };
		lastKind = event.pointerType;
	}
	function down(event: PointerEvent): void {
		if (event.pointerType === 'pen') penSeen = performance.now();
		if (isPalm(event)) return;
		notePress(event);
		container?.focus({ preventScroll: true });
		container?.setPointerCapture(event.pointerId);
		if (event.pointerType === 'touch') {
			touches.set(event.pointerId, { x: event.clientX, y: event.clientY });
			stopResting();
			if (touches.size === 1) {
				const where = at(event);
				const timer = setTimeout(() => {
					stopResting();
					hand.menuAt(where);
					tick++;
				}, REST_MS);
				resting = { timer, x: event.clientX, y: event.clientY };
			}
			if (touches.size === 2) {
				hand.cancel();
				ring = undefined;
				pinch = spread();
				return;
			}
			if (touches.size > 2) return;
			if (isGripped()) {
				stopResting();
				const where = at(event);
				ring = { x: where.x, y: where.y };
				if (isLooking()) {
					hand.move(where);
					tick++;
					return;
				}
			}
		}
		if (event.button !== 0) event.preventDefault();
		// The other button is for the menu beside the pointer.
		if (event.button === 2) return;
		hand.down(at(event));
		tick++;
	}
	function spread() {
		const [a, b] = [...touches.values()];
		return { distance: Math.hypot(a.x - b.x, a.y - b.y), x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
	}
	function move(event: PointerEvent): void {
		if (event.pointerType === 'pen') penSeen = performance.now();
		// What was not taken for a finger when it touched is none.
		if (event.pointerType === 'touch' && !touches.has(event.pointerId)) return;
		if (resting && Math.hypot(event.clientX - resting.x, event.clientY - resting.y) > REST_PX) stopResting();
		if (event.pointerType === 'touch' && touches.has(event.pointerId)) {
			touches.set(event.pointerId, { x: event.clientX, y: event.clientY });
			if (touches.size === 2 && pinch) {
				const now = spread();
				const rect = container!.getBoundingClientRect();
				bench.sight.pan(now.x - pinch.x, now.y - pinch.y);
				bench.sight.zoom(now.x - rect.left, now.y - rect.top, now.distance / pinch.distance);
				pinch = now;
				return;
			}
		}
		const where = at(event);
		if (ring) ring = { x: where.x, y: where.y };
		hand.move(where);
	}
	function up(event: PointerEvent): void {
		stopResting();
		if (event.pointerType === 'touch') {
			if (!touches.has(event.pointerId)) return;
			const held = ring;
			const where = at(event);
			touches.delete(event.pointerId);
			ring = undefined;
			if (held) {
				if (isLooking()) hand.down(where);
				hand.up(where);
				tick++;
				return;
			}
			if (pinch) {
				if (touches.size === 0) pinch = undefined;
				return;
			}
			// Two quick taps enter, as a double click does.
			const now = performance.now();
			const close =
				pressed &&
				now - pressed.time < DOUBLE_MS &&
				Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) < DOUBLE_PX;
			pressed = close ? undefined : { time: now, x: event.clientX, y: event.clientY };
			if (close && !bench.pickingMore) {
				hand.cancel();
				hand.double(at(event));
				tick++;
				return;
			}
		}
		hand.up(at(event));
		tick++;
	}
	function wheel(event: WheelEvent): void {
		event.preventDefault();
		const rect = container!.getBoundingClientRect();
		const lines = event.deltaMode === 1 ? 30 : 1;
		if (event.shiftKey) bench.sight.pan(-event.deltaY * lines, 0);
		else
			bench.sight.zoom(
				event.clientX - rect.left,
				event.clientY - rect.top,
				Math.exp((-event.deltaY * lines) / 420)
			);
	}
	/** The pointer that is moved by keys, as the hand is told of it. */
	function keyed(event: { readonly altKey: boolean }): PointerAt {
		const { at } = bench.keyPointer;
		const place = toScreen(bench.sight.view, bench.sight.size, at!.x, at!.y);
		return {
			...place,
			kind: 'mouse',
			shift: false,
			more: bench.pickingMore,
			second: false,
			alt: event.altKey,
			ctrl: false,
			button: 0,
			panning: false
		};
	}
	// Wherever it goes, what is held goes along.
	$effect(() => {
		if (!bench.keyPointer.at) return;
		untrack(() => {
			hand.move(keyed({ altKey: false }));
			tick++;
		});
	});
	let typingPlace = $state(false);
	/** Keys of the pointer while it is out; true where one was answered. */
	function byKeys(event: KeyboardEvent): boolean {
		const { keyPointer } = bench;
		if (!keyPointer.at || event.target !== container) return false;
		const way = WAYS[event.key];
		if (way) {
			if (event.ctrlKey || event.metaKey) {
				if (!keyPointer.catchNext(way)) bench.tell('There is nothing to catch on that way.');
			} else keyPointer.step(way, event.shiftKey, event.altKey);
		} else if (event.key === ' ') {
			// Space presses; with Shift it holds, until the next one lets go.
			const holdsOn = !keyPointer.held && event.shiftKey;
			if (!keyPointer.held) hand.down(keyed(event));
			if (!holdsOn) hand.up(keyed(event));
			keyPointer.held = holdsOn;
		} else if (event.key === '=' && !event.ctrlKey) typingPlace = true;
		else if (event.key === 'F10' && event.shiftKey) hand.menuAt(keyed(event));
		else if (event.key === 'Enter' && event.altKey) hand.double(keyed(event));
		else if (event.key === 'Escape' && !bench.pen && !bench.operation) {
			if (keyPointer.held) hand.cancel();
			keyPointer.toggle();
		} else return false;
		event.preventDefault();
		event.stopPropagation();
		tick++;
		return true;
	}
	function space(event: KeyboardEvent, held: boolean): void {
		// Whoever presses a key in between presses twice.
		lastPress = undefined;
		if (event.key === ' ' && event.target === container) {
			event.preventDefault();
			spaceHeld = held;
		}
	}
</script>

<!-- The surface answers keys by the bench's own key list; its label says what it is. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
	class="surface"
	class:panning={spaceHeld}
	class:picking={bench.pictures.sizing !== undefined || bench.pen !== undefined}
	role="application"
	aria-label="Drawing surface. N and B step through anchors, arrows move them, slash finds a command."
	tabindex="0"
	data-in-hand={inHand}
	data-view="{bench.sight.view.scale} {bench.sight.view.x} {bench.sight.view.y}"
	{@attach mount}
	{@attach (element) => {
		element.addEventListener('wheel', wheel, { passive: false });
		return () => element.removeEventListener('wheel', wheel);
	}}
	onpointerdown={down}
	onpointermove={move}
	onpointerup={up}
	onpointercancel={(e) => {
		touches.delete(e.pointerId);
		ring = undefined;
		hand.cancel();
	}}
	ondblclick={(e) => {
		if (lastKind === 'touch') return;
		hand.double(at(e));
		tick++;
	}}
	oncontextmenu={(e) => {
		e.preventDefault();
		if ((e as unknown as PointerEvent).pointerType === 'touch') return;
		hand.menuAt(at(e));
		tick++;
	}}
	onkeydown={(e) => {
		if (!byKeys(e)) space(e, true);
	}}
	onkeyup={(e) => space(e, false)}
></div>
{#if ring}
	<svg
		class="ring"
		style:left="{ring.x}px"
		style:top="{ring.y}px"
		viewBox="-24 -24 48 120"
		width="48"
		height="120"
		aria-hidden="true"
	>
		<path d="M0 16V64M-22 0H-6M6 0H22M0 -22V-6" />
		<circle r="16" />
	</svg>
{/if}
{#if bench.keyPointer.at}
	{#await import('./KeyPointerMark.svelte') then { default: Mark }}
		<Mark {bench} pointer={bench.keyPointer} bind:typing={typingPlace} />
	{/await}
{/if}

<style>
	/* Where a finger holds it: above, so that the finger covers nothing. */
	.ring {
		position: absolute;
		margin: -24px 0 0 -24px;
		pointer-events: none;
		z-index: 5;
		fill: none;
		stroke: var(--madder);
		stroke-width: 1.6;
		filter: drop-shadow(0 0 1px var(--paper)) drop-shadow(0 0 1px var(--paper));
	}
	.surface {
		position: absolute;
		inset: 0;
		overflow: hidden;
		touch-action: none;
		outline: none;
		cursor: default;
	}
	.surface:focus-visible {
		box-shadow: inset 0 0 0 2px var(--woad);
	}
	.panning {
		cursor: grab;
	}
	.picking {
		cursor: crosshair;
	}
</style>
