<script lang="ts">
	import { COMMANDS, keyName } from '$lib/stores/commands/commands';

	import type { Bench } from '$lib/stores/bench.svelte';
	import Sheet from '../parts/Sheet.svelte';

	let { bench }: { bench: Bench } = $props();
	const KEYED = COMMANDS.filter((c) => c.key);
	const HALVES = [KEYED.slice(0, Math.ceil(KEYED.length / 2)), KEYED.slice(Math.ceil(KEYED.length / 2))];
	const HAND: [string, string][] = [
		['/', 'find a command by a word'],
		['Enter, double click', 'into the outline'],
		['Esc', 'out again, or leave what is open'],
		['arrows', 'move anchors and stretches by 0.1 mm; with Shift 1 mm; with Alt 0.01 mm'],
		['a digit while dragging or drawing', 'types the length; Tab goes on to the angle, right and up'],
		['Ctrl while dragging', 'nothing snaps'],
		['Alt + drag beside the line', 'a lasso'],
		['drag a curve, with Alt', 'bends it, moves it whole'],
		['drag a straight, with Alt', 'moves it whole, bends it'],
		['Y while dragging', 'leaves a copy'],
		['other button, resting finger', 'what can be done here'],
		['Shift while dragging', 'level, plumb or 45 degrees'],
		['Shift on a handle', 'its direction stays'],
		['Ctrl on a handle', 'its length stays'],
		['Alt on a handle', 'moves it alone'],
		['hold Q', 'the drawing as it was before the last step'],
		['Space + drag, middle button', 'move the paper'],
		['wheel', 'nearer and farther, at the pointer'],
		['pull from a ruler', 'a guide']
	];
</script>

<Sheet {bench} title="Keys" line="Everything also by typing a word for it: press /.">
	<div class="columns">
		{#each HALVES as half, k (k)}
			<dl>
				{#each half as command (command.id)}<dt>{keyName(command.key ?? '')}</dt>
					<dd>{command.word}</dd>{/each}
			</dl>
		{/each}
		<dl>
			{#each HAND as [key, line] (key)}<dt>{key}</dt>
				<dd>{line}</dd>{/each}
		</dl>
	</div>
</Sheet>

<style>
	.columns {
		display: grid;
		grid-template-columns: 1fr 1fr 1.2fr;
		gap: 26px;
		font-size: 14.5px;
		margin: 12px 0;
	}
	dl {
		display: grid;
		grid-template-columns: auto 1fr;
		gap: 2px 14px;
		margin: 0;
		align-content: start;
	}
	dt {
		font-weight: 600;
		white-space: nowrap;
	}
	dd {
		margin: 0;
		color: var(--soft);
	}
</style>
