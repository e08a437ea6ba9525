<script lang="ts">
	/** One of a list that is too long to lie open: its word, and what is chosen. */
	let {
		label,
		says,
		name,
		value,
		items,
		onpick
	}: {
		label: string;
		/** One plain sentence. */
		says: string;
		/** What tests and styles call it. */
		name: string;
		value: string | undefined;
		items: readonly { readonly value: string; readonly word: string }[];
		onpick: (value: string) => void;
	} = $props();
</script>

<label
	><span>{label}</span>
	<select
		{value}
		data-pick={name}
		aria-label={label ? undefined : says}
		aria-description={says}
		onchange={(e) => onpick(e.currentTarget.value)}
	>
		{#each items as item (item.value)}<option value={item.value}>{item.word}</option>{/each}
	</select></label
>

<style>
	label {
		display: inline-flex;
		gap: 6px;
		align-items: center;
	}
	span {
		color: var(--soft);
	}
	select {
		height: 30px;
		max-width: 190px;
		border: none;
		border-bottom: 1px solid var(--soft);
		background: none;
		color: inherit;
		font: inherit;
		font-weight: 600;
	}
</style>
