<script lang="ts">
	/** Named sizes, and the grades of a size run beside each other: changed here, the drawing follows. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import { nextRank, recordsOf } from '$lib/core/document/drawing';
	import {
		badGrade,
		drawnIn,
		nested,
		runFromTable,
		runOf,
		valueIn,
		valuesIn,
		withGrade,
		withoutGrade,
		withValue
	} from '$lib/core/document/edits/size-run';
	import type { Edit } from '$lib/core/document/history';
	import type { NamedSize } from '$lib/core/document/holds/hold';
	import { badName, valuesOf } from '$lib/core/document/holds/sizes';
	import { toProblem } from '$lib/core/errors';
	import { formatLength } from '$lib/core/units';
	import { commitHolding } from '$lib/stores/holding';
	import { newId } from '$lib/stores/ids';
	import Sheet from '../parts/Sheet.svelte';

	let { bench }: { bench: Bench } = $props();
	const sizes = $derived(recordsOf(bench.drawing, 'size'));
	const run = $derived(runOf(bench.drawing));
	/** Columns: the grades, or the values as they are where there is no run. */
	const columns = $derived(run?.grades ?? ['']);
	const values = $derived(
		columns.map((grade): Record<string, number> => {
			try {
				return run ? valuesIn(bench.drawing, run, grade) : valuesOf(sizes);
			} catch {
				return {};
			}
		})
	);
	let name = $state('');
	let value = $state('');
	let grade = $state('');
	let trouble = $state('');
	/** The anchor on which all grades lie together. */
	const together = $derived.by(() => {
		const outline = bench.selection.enteredOutline;
		const [anchor] = outline ? bench.selection.anchorsOf(outline.id) : [];
		return outline && anchor !== undefined ? { outline: outline.id, anchor } : undefined;
	});

	/** Sizes as they would be: why they come to nothing. */
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
	/** An edit of sizes or grades; why it cannot be is said here. */
	async function act(word: string, edit: () => Edit): Promise<boolean> {
		try {
			const made = edit();
			trouble = '';
			return await commitHolding(bench, word, made);
		} catch (error) {
			trouble = toProblem(error).sentence;
			return false;
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
		if (await act(`Size ${size.name}`, () => ({ put: [size] }))) [name, value] = ['', ''];
	}
	async function set(size: NamedSize, column: string, field: HTMLInputElement): Promise<void> {
		const next = run ? withValue(size, run, column, field.value) : { ...size, value: field.value };
		const all = sizes.map((one) => (one.id === size.id ? next : one));
		const inGrade = run ? all.map((one) => ({ ...one, value: valueIn(one, run, column) })) : all;
		const word = `Size ${size.name}${column ? `, ${column}` : ''}: ${field.value}`;
		if (refused(inGrade) || !(await act(word, () => ({ put: [next] }))))
			field.value = run ? valueIn(size, run, column) : size.value;
	}
	function remove(size: NamedSize): void {
		if (refused(sizes.filter(({ id }) => id !== size.id))) return;
		const used = recordsOf(bench.drawing, 'hold').some(({ value: text = '' }) =>
			new RegExp(`(^|[^\\p{L}\\p{N}_])${size.name}($|[^\\p{L}\\p{N}_])`, 'u').test(text)
		);
		if (used) trouble = `"${size.name}" stands in a hold. Change that first.`;
		else bench.commit(`Remove size ${size.name}`, { remove: [size.id] });
	}
	async function addGrade(): Promise<void> {
		trouble = badGrade(grade, run) ?? '';
		if (trouble) return;
		if (await act(`Grade ${grade}`, () => withGrade(bench.drawing, grade.trim()))) grade = '';
	}
	/** A table copied elsewhere, put in anywhere here: grades above, sizes at the left. */
	function pasted(e: ClipboardEvent): void {
		const text = e.clipboardData?.getData('text/plain') ?? '';
		if (!/\n/.test(text.trim()) || !/[\t;,]/.test(text)) return;
		e.preventDefault();
		void act('Size run from a table', () => runFromTable(bench.drawing, text, newId));
	}
</script>

<svelte:window onpaste={pasted} />
<Sheet
	{bench}
	title="Sizes"
	line="Numbers with a name. They stand in holds, as in hip / 4 + 5 mm; changed here, all that is held by them follows."
>
	<div class="list" style:--columns={columns.length}>
		{#if run}
			<span></span>
			{#each columns as column (column)}
				<span class="head">
					<button
						class="word"
						class:here={column === run.now}
						aria-pressed={column === run.now}
						aria-label="Draw grade {column}"
						aria-description="The drawing becomes that grade: all that is held by the sizes follows."
						onclick={() => void act(`Draw grade ${column}`, () => drawnIn(bench.drawing, column))}
						>{column}</button
					>
					<button
						class="word quiet"
						aria-label="Remove grade {column}"
						onclick={() => void act(`Remove grade ${column}`, () => withoutGrade(bench.drawing, run, column))}
						>×</button
					>
				</span>
			{/each}
			<span></span>
		{/if}
		{#each sizes as size (size.id)}
			<span class="name">{size.name}</span>
			{#each columns as column, k (column)}
				<span class="cell">
					<input
						aria-label="Size {size.name}{column ? `, ${column}` : ''}"
						value={run ? valueIn(size, run, column) : size.value}
						spellcheck="false"
						autocomplete="off"
						onchange={(e) => void set(size, column, e.currentTarget)}
					/>
					<span class="quiet" data-size={column ? `${size.name} ${column}` : size.name}
						>{values[k]?.[size.name] === undefined
							? ''
							: formatLength(values[k][size.name], bench.unit)}</span
					>
				</span>
			{/each}
			<button class="word" aria-label="Remove size {size.name}" onclick={() => remove(size)}>remove</button>
		{/each}
	</div>
	<div class="adds">
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
		<button class="word" data-act="add-size" onclick={() => void add()}>add a size</button>
		<input
			aria-label="New grade: its name"
			placeholder={run ? 'grade, as L' : 'grade drawn now, as M'}
			bind:value={grade}
			spellcheck="false"
			autocomplete="off"
			onkeydown={(e) => {
				if (e.key !== 'Enter') return;
				e.preventDefault();
				void addGrade();
			}}
		/>
		<button
			class="word"
			data-act="add-grade"
			aria-description="A size run: the same pattern in several grades. A new one begins with the values of the last."
			onclick={() => void addGrade()}>{run ? 'add a grade' : 'begin a size run'}</button
		>
		{#if run && run.grades.length > 1}
			<button
				class="word strong"
				data-act="nest-grades"
				aria-description="All other grades over the drawn one, each a group of its own. Once more, and they are drawn anew."
				onclick={() => void act('All grades, nested', () => nested(bench.drawing, newId, together))}
				>draw all grades{together ? ', together on the picked anchor' : ''}</button
			>
		{/if}
	</div>
	<p class="quiet">
		A table copied elsewhere can be pasted here: grades in its first row, sizes in its first column.
	</p>
	<p class="trouble" role="status">{trouble}</p>
</Sheet>

<style>
	.list {
		display: grid;
		grid-template-columns: auto repeat(var(--columns), minmax(96px, 1fr)) auto;
		gap: 4px 12px;
		align-items: baseline;
		min-width: 380px;
		max-width: 100%;
		max-height: 46vh;
		overflow: auto;
	}
	.head,
	.cell {
		display: flex;
		gap: 4px;
		align-items: baseline;
		min-width: 0;
	}
	.cell {
		flex-wrap: wrap;
	}
	.adds {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 8px;
		align-items: baseline;
		margin-top: 8px;
	}
	.adds input {
		width: 10em;
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
	.cell input {
		flex: 1 1 5em;
		width: 5em;
	}
	.name {
		font-weight: 600;
	}
	.here {
		text-decoration: underline;
		text-underline-offset: 4px;
		font-weight: 600;
	}
	p {
		margin: 6px 0 0;
	}
	.trouble {
		min-height: 1.4em;
		color: var(--rust);
	}
</style>
