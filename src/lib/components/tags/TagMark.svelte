<script lang="ts">
	/** On the tag of a mark: its form, size and direction, and the line that it lies on. */
	import type { Mark } from '$lib/core/document/drawing';
	import { MARK_FORMS, type MarkForm } from '$lib/core/document/mark-forms';
	import { MARK_SIZE, markOff } from '$lib/core/document/marks';
	import { putOnLine } from '$lib/stores/marking';
	import type { Bench } from '$lib/stores/bench.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Pick from '../parts/Pick.svelte';

	let { bench, mark }: { bench: Bench; mark: Mark } = $props();
	const put = (name: string, changed: Partial<Mark>) =>
		bench.commit(name, { put: [{ ...mark, ...changed }] });
	const WORDS: Readonly<Record<MarkForm, string>> = {
		point: 'point to drill',
		cross: 'cross',
		V: 'V notch',
		T: 'T notch',
		slit: 'slit'
	};
	const form = $derived(mark.form ?? 'point');
	const line = $derived.by(() => {
		const outline = mark.on && bench.drawing.records.get(mark.on.outline);
		return outline?.type === 'outline' ? outline : undefined;
	});
</script>

<div class="part" data-testid="mark">
	<Pick
		label="as"
		says="What it is: a point is drilled, the others are cut or drawn as their layer says."
		name="mark-form"
		value={form}
		items={MARK_FORMS.map((value) => ({ value, word: WORDS[value] }))}
		onpick={(value) => put('Form of a mark', { form: value as MarkForm })}
	/>
	{#if form !== 'point'}
		<NumberField
			label="size"
			says="How far it goes into the piece, or how large the cross is."
			unit={bench.unit}
			least={0.1}
			most={1000}
			width={9}
			value={mark.size ?? MARK_SIZE}
			onset={(size) => put('Size of a mark', { size })}
		/>
		{#if !line}
			<NumberField
				label="at"
				says="The way that it points: 90° is upward."
				kind="number"
				suffix="°"
				digits={1}
				width={8}
				value={mark.angle ?? 90}
				onset={(angle) => put('Turn a mark', { angle })}
			/>
		{/if}
	{/if}
	{#if line}
		<span class="quiet">on {line.name}</span>
		<button
			class="word"
			data-act="off-line"
			onclick={() => bench.commit('Off the line', { put: [markOff(mark)] })}>off it</button
		>
	{:else}
		<button
			class="word"
			data-act="onto-line"
			aria-description="It goes onto the nearest line and stays at its share of that edge."
			onclick={() => putOnLine(bench, [mark])}>onto the line</button
		>
	{/if}
</div>
