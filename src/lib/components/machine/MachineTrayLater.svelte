<script lang="ts">
	/** The machine's tray, loaded when it is first opened. */
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { Operation } from '$lib/stores/operations/operation.svelte';
	import type { MachiningOperation } from '$lib/stores/machining/machining.svelte';

	let { bench, operation }: { bench: Bench; operation: Operation } = $props();
</script>

{#await import('./MachineTray.svelte') then { default: MachineTray }}
	<MachineTray {bench} operation={operation as MachiningOperation} />
{/await}
