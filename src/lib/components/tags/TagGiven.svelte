<script lang="ts">
	/** On the tag: what an entered line is given by, and the picked one of its points. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import {
		changeGiven,
		freeOfLine,
		goAlong,
		lineAt,
		lineNear,
		movePlace,
		takePlaceOut
	} from '$lib/stores/giving';
	import type { Given } from '$lib/stores/selection.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import TagRecipe from './TagRecipe.svelte';

	let { bench, given }: { bench: Bench; given: Given } = $props();
	const place = $derived(given.places.find(({ key }) => key === bench.selection.place));
	const fields = $derived(place ? (given.kind.fields?.(given.settings, place.key) ?? []) : []);
	const along = $derived(place && given.kind.boundTo?.(given.settings, place.key));
	const alongName = $derived.by(() => {
		const record = along && bench.drawing.records.get(given.outline.recipe!.inputs[along.input]?.record);
		return record?.type === 'outline' ? record.name : '';
	});
	const near = $derived(
		place && given.kind.bound && place.looks === 'point' && !along && !bench.draft
			? lineNear(bench, given, place)
			: undefined
	);
	const SAYS: Record<string, string> = {
		direction:
			'Which way the line goes here, degrees anticlockwise from the right; empty it to let it find its own.',
		pull: 'How strongly it goes that way.',
		radius: 'The radius of the curve here, to the left; below 0 to the right.',
		weight: 'How strongly this corner pulls; 1 is usual.'
	};
	/** A direction or a radius of its own begins as what it is. */
	function give(name: string): void {
		const now = place && lineAt(given.outline, parseInt(place.key, 10));
		const value = name === 'radius' ? now?.radius : now?.direction;
		if (value === undefined) return;
		if (Math.abs(value) > 10_000) bench.tell('The line is straight here: it has no radius.', 'trouble');
		else set(name, Number(value.toFixed(3)));
	}
	function set(name: string, value: number | undefined): void {
		if (!place || !given.kind.withField) return;
		changeGiven(
			bench,
			`Set the ${name}`,
			given,
			given.kind.withField(given.settings, place.key, name, value)
		);
	}
</script>

<TagRecipe {bench} outline={given.outline} recipe={given.outline.recipe!} />
{#if place}
	<div class="part" data-testid="given-place">
		{#each ['x', 'y'] as const as axis (axis)}
			<NumberField
				label={axis}
				says="Where the picked point lies."
				unit={bench.unit}
				width={11}
				value={place[axis]}
				onset={(v) => movePlace(bench, place.key, { x: place.x, y: place.y, [axis]: v })}
			/>
		{/each}
		{#each fields as field (field.name)}
			{#if field.kind !== 'choice' && field.kind !== 'text'}
				{#if field.value === undefined}
					<button
						class="word"
						data-act="give-{field.name}"
						onclick={() => give(field.name)}
						aria-description={SAYS[field.name]}>give a {field.word}</button
					>
				{:else}
					<NumberField
						label={field.word}
						says={SAYS[field.name] ?? 'A number of the picked point.'}
						kind={field.kind === 'length' ? 'length' : 'number'}
						unit={bench.unit}
						suffix={field.kind === 'angle' ? '°' : ''}
						digits={3}
						width={11}
						least={field.least}
						most={field.most}
						value={field.value}
						onset={(v) => set(field.name, v)}
					/>
					{#if field.name === 'direction' || field.name === 'radius'}<button
							class="word"
							data-act="free-{field.name}"
							onclick={() => set(field.name, undefined)}>free</button
						>{/if}
				{/if}
			{/if}
		{/each}
		{#if place && along}
			<span class="quiet" data-fact="along"
				>goes {along.turn % 180 ? 'square to' : 'along'} "{alongName}"</span
			>
			<button
				class="word"
				data-act="turn-along"
				aria-description="A quarter turn to the line that it goes along."
				onclick={() =>
					changeGiven(
						bench,
						'Turn a direction',
						given,
						given.kind.bound!(given.settings, place.key, { ...along, turn: (along.turn + 90) % 360 })
					)}>turn</button
			>
			<button class="word" data-act="free-along" onclick={() => freeOfLine(bench, given, place)}>free</button>
		{:else if place && near}
			<button
				class="word"
				data-act="go-along"
				aria-description="Here the line goes along that one from now on, or square to it, whichever is nearer, also when that one is changed."
				onclick={() => goAlong(bench, given, place, near)}>go along "{near.name}"</button
			>
		{/if}
		{#if given.kind.without}<button class="word" data-act="take-out" onclick={() => takePlaceOut(bench)}
				>take it out</button
			>{/if}
	</div>
{:else}
	<p class="quiet" data-testid="given-hint">Drag its points; a double click on the line puts one in.</p>
{/if}

<style>
	p {
		margin: 2px 0 0;
	}
</style>
