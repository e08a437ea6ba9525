<script lang="ts">
	/** A switch that says what holds in the state it is in. */
	import { Switch } from '@skeletonlabs/skeleton-svelte';

	let {
		on,
		off,
		checked,
		says,
		act,
		onset
	}: {
		/** What holds when it is on. */
		on: string;
		/** What holds when it is off. */
		off: string;
		checked: boolean;
		/** One plain sentence about it. */
		says: string;
		/** A name for tests. */
		act?: string;
		onset: (checked: boolean) => void;
	} = $props();
</script>

<Switch
	class="switch"
	{checked}
	onCheckedChange={(d) => onset(d.checked)}
	data-act={act}
	aria-description={says}
>
	<Switch.Control><Switch.Thumb /></Switch.Control>
	<Switch.Label>{checked ? on : off}</Switch.Label>
	<Switch.HiddenInput aria-description={says} />
</Switch>
