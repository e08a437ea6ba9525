<script lang="ts">
	/** Named sizes: changed here, the drawing follows. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { nextRank, recordsOf } from '$lib/core/document/drawing';
	import type { NamedSize } from '$lib/core/document/holds/hold';
	import { badName, valuesOf } from '$lib/core/document/holds/sizes';
	import { toProblem } from '$lib/core/errors';
	import { formatLength } from '$lib/core/units';
	import { commitHolding } from '$lib/stores/holding';
	import { newId } from '$lib/stores/ids';
	import Sheet from '../parts/Sheet.svelte';

	let { bench }: { bench: Bench } = $props();
	const sizes = $derived(recordsOf(bench.drawing, 'size'));
	const values = $derived.by((): Record<string, number> => {
		try {
			return valuesOf(sizes);
		} catch {
			return {};
		}
	});
	let name = $state('');
	let value = $state('');
	let trouble = $state('');

	/** Sizes as they would be: what they come to, or why they do not. */
	function refused(next: readonly NamedSize[]): boolean {
		try {
			valuesOf(next);
			trouble = '';
			return false;
		} catch (error) {
			trouble = toProblem(error).sentence;
			return true;
		}
	}
	async function add(): Promise<void> {
		trouble =
			badName(
				name.trim(),
				sizes.map((size) => size.name)
			) ?? '';
		if (trouble) return;
		const size: NamedSize = {
			type: 'size',
			id: newId(),
			rank: nextRank(bench.drawing),
			name: name.trim(),
			value
		};
		if (refused([...sizes, size])) return;
		if (await commitHolding(bench, `Size ${size.name}`, { put: [size] })) [name, value] = ['', ''];
	}
	async function set(size: NamedSize, field: HTMLInputElement): Promise<void> {
		const next = { ...size, value: field.value };
		const all = sizes.map((one) => (one.id === size.id ? next : one));
		if (refused(all) || !(await commitHolding(bench, `Size ${size.name}: ${next.value}`, { put: [next] })))
			field.value = size.value;
	}
	function remove(size: NamedSize): void {
		if (refused(sizes.filter(({ id }) => id !== size.id))) return;
		const used = recordsOf(bench.drawing, 'hold').some(({ value: text = '' }) =>
			new RegExp(`(^|[^\\p{L}\\p{N}_])${size.name}($|[^\\p{L}\\p{N}_])`, 'u').test(text)
		);
		if (used) trouble = `"${size.name}" stands in a hold. Change that first.`;
		else bench.commit(`Remove size ${size.name}`, { remove: [size.id] });
	}
</script>

<Sheet
	{bench}
	title="Sizes"
	line="Numbers with a name. They stand in holds, as in hip / 4 + 5 mm; changed here, all that is held by them follows."
>
	<div class="list">
		{#each sizes as size (size.id)}
			<span class="name">{size.name}</span>
			<input
				aria-label="Size {size.name}"
				value={size.value}
				spellcheck="false"
				autocomplete="off"
				onchange={(e) => void set(size, e.currentTarget)}
			/>
			<span class="quiet" data-size={size.name}
				>{values[size.name] === undefined ? '' : formatLength(values[size.name], bench.unit)}</span
			>
			<button class="word" aria-label="Remove size {size.name}" onclick={() => remove(size)}>remove</button>
		{/each}
		<input
			aria-label="New size: its name"
			placeholder="name"
			bind:value={name}
			spellcheck="false"
			autocomplete="off"
		/>
		<input
			aria-label="New size: its value"
			placeholder="value, mm"
			bind:value
			spellcheck="false"
			autocomplete="off"
			onkeydown={(e) => {
				if (e.key !== 'Enter') return;
				e.preventDefault();
				void add();
			}}
		/>
		<span></span>
		<button class="word" data-act="add-size" onclick={() => void add()}>add</button>
	</div>
	<p class="trouble" role="status">{trouble}</p>
</Sheet>

<style>
	.list {
		display: grid;
		grid-template-columns: auto 1fr auto auto;
		gap: 4px 12px;
		align-items: baseline;
		min-width: 380px;
	}
	input {
		min-width: 0;
		padding: 2px 6px;
		border: 0;
		border-bottom: 1px solid var(--soft);
		background: none;
		color: inherit;
		font: inherit;
	}
	.name {
		font-weight: 600;
	}
	.trouble {
		min-height: 1.4em;
		margin: 6px 0 0;
		color: var(--rust);
	}
</style>
