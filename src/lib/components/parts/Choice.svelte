<script lang="ts">
	/** One of a few words: every choice of an operation's tray. */
	import { SegmentedControl } from '@skeletonlabs/skeleton-svelte';

	let {
		label,
		value,
		items,
		says,
		onpick
	}: {
		/** Told to screen readers; the words speak for themselves on the screen. */
		label: string;
		value: string;
		items: readonly { value: string; word: string; says?: string }[];
		/** One plain sentence about it; an item may have one of its own. */
		says: string;
		onpick: (value: string) => void;
	} = $props();
</script>

<SegmentedControl {value} onValueChange={(d) => d.value && onpick(d.value)}>
	<SegmentedControl.Label class="hidden-word">{label}</SegmentedControl.Label>
	<SegmentedControl.Control>
		<SegmentedControl.Indicator />
		{#each items as item (item.value)}
			<SegmentedControl.Item value={item.value} data-choice={item.value} aria-description={item.says ?? says}>
				<SegmentedControl.ItemText>{item.word}</SegmentedControl.ItemText><SegmentedControl.ItemHiddenInput
					aria-description={item.says ?? says}
				/>
			</SegmentedControl.Item>
		{/each}
	</SegmentedControl.Control>
</SegmentedControl>
