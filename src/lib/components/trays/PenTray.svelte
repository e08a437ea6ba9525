<script lang="ts">
	/** What is drawn with: a line, a stroke, a ready shape; and how many sides or points. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { useCommand } from '$lib/stores/commands/command';
	import { commandOf } from '$lib/stores/commands/commands';
	import { Pen, type PenKind } from '$lib/stores/gestures/pen.svelte';
	import Choice from '../parts/Choice.svelte';
	import NumberField from '../parts/NumberField.svelte';

	let { bench, pen }: { bench: Bench; pen: Pen } = $props();
	const KINDS: { value: PenKind; word: string }[] = [
		{ value: 'line', word: 'Line' },
		{ value: 'freehand', word: 'Freehand' },
		{ value: 'rectangle', word: 'Rectangle' },
		{ value: 'circle', word: 'Circle' },
		{ value: 'ellipse', word: 'Ellipse' },
		{ value: 'arc', word: 'Arc' },
		{ value: 'polygon', word: 'Polygon' },
		{ value: 'star', word: 'Star' },
		{ value: 'slot', word: 'Slot' },
		{ value: 'mark', word: 'Point' },
		{ value: 'through', word: 'Through points' },
		{ value: 'pulled', word: 'Pulled' },
		{ value: 'conic', word: 'Arch' }
	];
	const CIRCLES: { value: PenKind; word: string }[] = [
		{ value: 'circle', word: 'from its middle' },
		{ value: 'circle by two', word: 'across two places' },
		{ value: 'circle by three', word: 'through three places' }
	];
	const isCircle = $derived(pen.kind.startsWith('circle'));
	function take(kind: PenKind): void {
		// A line that is being drawn is kept.
		pen.finish();
		if (kind === 'through' || kind === 'pulled' || kind === 'conic') {
			useCommand(bench, commandOf(`draw-${kind}`));
			return;
		}
		const next = new Pen(bench, kind);
		next.sides = pen.sides;
		next.points = pen.points;
		bench.pen = next;
	}
</script>

<div class="rows">
	<div class="row" hidden={pen.kind === 'redraw'}>
		<Choice
			label="Draw"
			says="What is drawn."
			value={isCircle ? 'circle' : pen.kind}
			items={KINDS}
			onpick={(v) => take(v as PenKind)}
		/>
	</div>
	<div class="row">
		{#if isCircle}
			<Choice
				label="Circle"
				says="By which places the circle is drawn."
				value={pen.kind}
				items={CIRCLES}
				onpick={(v) => take(v as PenKind)}
			/>
		{:else if pen.kind === 'polygon'}
			<NumberField
				label="Sides"
				says="How many sides the polygon has."
				kind="number"
				digits={0}
				width={4}
				value={pen.sides}
				least={3}
				most={200}
				onset={(v) => (pen.sides = Math.round(v))}
			/>
		{:else if pen.kind === 'star'}
			<NumberField
				label="Points"
				says="How many points the star has."
				kind="number"
				digits={0}
				width={4}
				value={pen.points}
				least={2}
				most={200}
				onset={(v) => (pen.points = Math.round(v))}
			/>
		{:else if 'degree' in pen}
			{#if pen.kind === 'pulled'}<NumberField
					label="Degree"
					says="1 gives straights, 3 is usual, 7 is the smoothest."
					kind="number"
					digits={0}
					width={4}
					value={pen.degree as number}
					least={1}
					most={7}
					onset={(v) => ((pen as unknown as { degree: number }).degree = Math.round(v))}
				/>{/if}
			<button
				class="word"
				disabled={pen.anchors.length < 2}
				onclick={() => pen.finish()}
				data-act="pen-finish">end the curve</button
			>
		{:else if pen.kind === 'line'}
			<button
				class="word"
				class:here={!pen.flowing}
				onclick={() => pen.setFlowing(false)}
				data-act="corners-next">corners</button
			>
			<button
				class="word"
				class:here={pen.flowing}
				onclick={() => pen.setFlowing(true)}
				data-act="flowing-next">flowing</button
			>
			<button class="word" disabled={!pen.canUndo} onclick={() => pen.undo()} data-act="pen-back"
				>take the last back</button
			>
			<button
				class="word"
				disabled={pen.anchors.length < 2}
				onclick={() => pen.finish()}
				data-act="pen-finish">end the line</button
			>
		{/if}
		<button
			class="word"
			onclick={() => bench.dropOperation()}
			aria-description="Puts the pen away; a line that is being drawn is kept."
			data-act="pen-away">Leave</button
		>
	</div>
</div>

<style>
	.rows {
		width: auto;
	}
	.here {
		color: var(--madder);
	}
</style>
