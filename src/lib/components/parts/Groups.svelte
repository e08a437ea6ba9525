<script lang="ts" generics="T = undefined">
	/** Settings of an operation in groups, of which one is shown: what is rarely needed opens by its word. */
	import { Tabs } from '@skeletonlabs/skeleton-svelte';
	import type { Snippet } from 'svelte';

	let {
		groups,
		label,
		picked = $bindable()
	}: {
		/** Each with what its content is drawn from, where that is told. */
		groups: readonly {
			readonly value: string;
			readonly word: string;
			readonly content: Snippet<[T]>;
			readonly of?: T;
		}[];
		label: string;
		/** Which is shown; the first where nothing is said. */
		picked?: string | undefined;
	} = $props();
	const shown = $derived(groups.find((g) => g.value === picked)?.value ?? groups[0]?.value ?? '');
</script>

<Tabs value={shown} onValueChange={(d) => (picked = d.value)} class="groups">
	<Tabs.List aria-label={label}>
		{#each groups as { value, word } (value)}
			<Tabs.Trigger {value} data-group={value}>{word}</Tabs.Trigger>
		{/each}
	</Tabs.List>
	{#each groups as { value, content, of } (value)}
		<Tabs.Content {value} class="row"
			>{#if value === shown}{@render content(of as T)}{/if}</Tabs.Content
		>
	{/each}
</Tabs>
