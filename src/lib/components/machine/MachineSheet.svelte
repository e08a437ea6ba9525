<script lang="ts">
	/** The machine's own bench: the job and the sheet, where the tool is, what the machine says, a large stop. */
	import { onDestroy, untrack } from 'svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import type { MachiningOperation } from '$lib/stores/machining/machining.svelte';
	import Sheet from '../parts/Sheet.svelte';
	import MachineView from './MachineView.svelte';

	let { bench }: { bench: Bench } = $props();
	const operation = untrack(() => bench.operation as MachiningOperation | undefined);
	const machine = untrack(() => operation?.machineBench);
	onDestroy(() => {
		machine?.leave();
		if (operation) operation.machineBench = undefined;
	});
</script>

<svelte:window onpagehide={() => machine?.leave()} />

{#if machine}
	<Sheet
		{bench}
		title={machine.name}
		line={`${machine.file.name}, ${machine.messages.length} lines, on a simulated machine.`}
	>
		<MachineView {machine} />
	</Sheet>
{/if}
