<script lang="ts">
	/** How closely two parts meet and which gives way; how they met before and how they do. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { MeetOperation } from '$lib/stores/operations/meet-operation.svelte';
	import type { GivesWay, Meeting } from '$lib/core/document/edits/meet';
	import type { MeetWay } from '$lib/core/fit/meet-ways';
	import { formatLength, formatNumber } from '$lib/core/units';
	import { useCommand } from '$lib/stores/commands/command';
	import { commandOf } from '$lib/stores/commands/commands';
	import Choice from '../parts/Choice.svelte';
	import Toggle from '../parts/Toggle.svelte';
	import OperationStrip from './OperationStrip.svelte';

	let { bench, operation }: { bench: Bench; operation: MeetOperation } = $props();
	const WAYS: { value: MeetWay; word: string }[] = [
		{ value: 'place', word: 'in place' },
		{ value: 'direction', word: 'in direction too' },
		{ value: 'curvature', word: 'in curvature too' }
	];
	const ways = $derived(operation.isOneAnchor ? WAYS.slice(1) : WAYS);
	const GIVES: { value: GivesWay; word: string }[] = [
		{ value: 'first', word: '1 gives way' },
		{ value: 'second', word: '2 gives way' },
		{ value: 'both', word: 'both alike' }
	];
	const radius = (bend: number) =>
		Math.abs(bend) < 1e-9 ? 'straight' : formatLength(1 / Math.abs(bend), bench.unit);
	const words = (m: Meeting) =>
		m.how === 'apart'
			? `${formatLength(m.gap, bench.unit)} apart`
			: m.how === 'place'
				? `at ${formatNumber(Math.abs(m.turn), 1)}°`
				: m.how === 'direction'
					? `in direction, radius ${radius(m.before)} and ${radius(m.after)}`
					: `in curvature, radius ${radius(m.after)}`;
</script>

{#if operation.asks}
	<div class="rows">
		<p role="status" data-fact="asks">
			These ends lie <b>{formatLength(operation.before.gap, bench.unit)}</b> apart. {operation.closes
				? 'Moved together they close the line and bend its ends.'
				: 'Moved together both lines change there.'} A bridge leaves every end where it is.
		</p>
		<div class="row">
			<button class="word strong" data-act="bridge" onclick={() => useCommand(bench, commandOf('bridge'))}
				>Put a bridge between</button
			>
			<button class="word" data-act="move-ends" onclick={() => operation.set({ isMovingMeant: true })}
				>Move the ends together</button
			>
			<button class="word" onclick={() => bench.dropOperation()} data-act="leave">Leave</button>
		</div>
	</div>
{:else}
	<div class="rows">
		<div class="row">
			<span class="quiet">They meet</span>
			<Choice
				label="How closely"
				says="Whether only the places meet, the directions too, or the curvature as well."
				value={operation.way}
				items={ways}
				onpick={(v) => operation.set({ way: v as MeetWay })}
			/>
			<Choice
				label="Which gives way"
				says="Which of the two parts is changed."
				value={operation.gives}
				items={GIVES}
				onpick={(v) => operation.set({ gives: v as GivesWay })}
			/>
			{#if operation.canBeHeld}
				<Toggle
					on="and stay so"
					off="once"
					says="Whether the ends are held so from now on, whatever is moved afterwards."
					act="hold-meeting"
					checked={operation.isHeld}
					onset={(checked) => (operation.isHeld = checked)}
				/>
			{/if}
		</div>
		<OperationStrip {bench} keepWord="Keep them so">
			{#snippet facts()}
				<span class="quiet">before {words(operation.before)}</span>
				<span data-fact="meeting">now <b>{words(operation.after)}</b></span>
				<span
					>drift <b data-fact="drift">{formatLength(operation.moved, bench.unit)}</b>
					<button class="word" onclick={() => bench.seeWorst()}>see the worst</button></span
				>
			{/snippet}
		</OperationStrip>
	</div>
{/if}
