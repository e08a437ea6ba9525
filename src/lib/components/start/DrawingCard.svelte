<script lang="ts">
	/** A drawing in the list: its picture, its name, the shelf that it lies on, what can be done with it. */
	import { dateAndTime } from '$lib/stores/said/dates';
	import type { DrawingHead } from '$lib/storage/database';

	let {
		drawing,
		picture,
		tilt,
		shelves,
		onsay,
		oncopy,
		onthrow
	}: {
		drawing: DrawingHead;
		picture: string | undefined;
		tilt: number;
		shelves: readonly string[];
		onsay: (said: { name?: string; shelf?: string | undefined }) => void;
		oncopy: () => void;
		onthrow: () => void;
	} = $props();
	let naming = $state(false);
	/** The field that was asked for is the one that is typed in. */
	const focused = (field: HTMLInputElement) => field.focus();
	/** Enter takes what was typed. */
	function finished(e: KeyboardEvent & { currentTarget: HTMLInputElement }): void {
		if (e.key !== 'Enter') return;
		e.currentTarget.blur();
		naming = false;
	}
	const listId = $derived(`shelves-${drawing.id}`);
</script>

<li style:--tilt="{tilt}deg">
	<a href="/drawing/{drawing.id}">
		{#if picture}<img src={picture} alt="" width="320" height="220" />
		{:else}<span class="blank"></span>{/if}
		{#if !naming}<b>{drawing.name}</b>{/if}
		<span class="quiet">{dateAndTime(drawing.changedAt)}</span>
	</a>
	{#if naming}
		<label class="said"
			><span class="quiet">name</span>
			<input
				use:focused
				value={drawing.name}
				maxlength="120"
				onkeydown={(e) => {
					if (e.key === 'Escape') {
						// It stays what it was.
						e.currentTarget.value = drawing.name;
						naming = false;
					}
					finished(e);
				}}
				onchange={(e) => {
					const name = e.currentTarget.value.trim();
					if (name && name !== drawing.name) onsay({ name });
				}}
			/></label
		>
		<label class="said"
			><span class="quiet">shelf</span>
			<input
				value={drawing.shelf ?? ''}
				list={listId}
				maxlength="60"
				placeholder="none"
				onkeydown={finished}
				onchange={(e) => onsay({ shelf: e.currentTarget.value.trim() || undefined })}
			/>
			<datalist id={listId}
				>{#each shelves as shelf (shelf)}<option value={shelf}></option>{/each}</datalist
			>
		</label>
	{/if}
	<span class="acts">
		<button
			class="word small"
			aria-label="Name and shelf of {drawing.name}"
			onclick={() => (naming = !naming)}>{naming ? 'done' : 'name and shelf'}</button
		>
		<button class="word small" aria-label="Copy {drawing.name}" onclick={oncopy}>copy</button>
		<button class="word small" aria-label="Throw away {drawing.name}" onclick={onthrow}>throw away</button>
	</span>
</li>

<style>
	li {
		position: relative;
	}
	a {
		display: grid;
		gap: 2px;
		color: var(--ink);
		text-decoration: none;
		padding-top: 14px;
		border-top: 2px solid var(--soft);
	}
	a::before {
		content: '';
		position: absolute;
		top: -7px;
		left: 50%;
		width: 12px;
		height: 20px;
		border: 1.5px solid var(--soft);
		border-radius: 3px;
		background: var(--wash);
		transform: rotate(var(--tilt));
	}
	img,
	.blank {
		width: 100%;
		height: auto;
		aspect-ratio: 320 / 220;
		background: #f4efe3;
		border: 1px solid var(--slip-edge);
	}
	a:hover b {
		color: var(--madder);
	}
	.acts {
		display: flex;
		flex-wrap: wrap;
		gap: 0 12px;
	}
	.small {
		font-weight: 400;
		font-size: 13px;
		padding-left: 0;
		color: var(--soft);
	}
	.said {
		display: flex;
		gap: 8px;
		align-items: baseline;
	}
	.said input {
		flex: 1;
		min-width: 0;
		padding: 2px 4px;
		border: 0;
		border-bottom: 1px solid var(--soft);
		background: none;
		color: inherit;
		font: inherit;
	}
</style>
