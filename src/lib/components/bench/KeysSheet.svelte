<script lang="ts">
	/** The keys: those of the commands, which can be changed and switched off; and those that belong to the hand. */
	import { COMMANDS, type Command } from '$lib/stores/commands/commands';
	import { isSingle, keyName, keys, pressedKey } from '$lib/stores/keys.svelte';
	import type { Bench } from '$lib/stores/bench.svelte';
	import Sheet from '../parts/Sheet.svelte';
	import Toggle from '../parts/Toggle.svelte';

	let { bench }: { bench: Bench } = $props();
	let sought = $state('');
	/** Whose key is being pressed anew. */
	let waiting = $state<string>();
	let told = $state('');
	const found = $derived.by(() => {
		const words = sought.toLowerCase().split(/\s+/).filter(Boolean);
		return words.length
			? COMMANDS.filter((c) => words.every((w) => `${c.word} ${c.also} ${c.line}`.toLowerCase().includes(w)))
			: COMMANDS.filter((c) => keys.given(c));
	});
	const HAND: [string, string][] = [
		['Ctrl + K, /', 'find a command by a word'],
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
	function take(event: KeyboardEvent, command: Command): void {
		if (waiting !== command.id || event.key === 'Tab') return;
		event.preventDefault();
		event.stopPropagation();
		if (event.key === 'Escape') {
			waiting = undefined;
			return;
		}
		const none = event.key === 'Backspace' || event.key === 'Delete';
		const key = none ? '' : pressedKey(event);
		if (key === undefined) return;
		waiting = undefined;
		const had = keys.change(command, key, COMMANDS);
		told = none
			? `${command.word} has no key now.`
			: `${command.word} has ${keyName(key)} now.${had ? ` ${had.word} had it and has none now.` : ''}`;
		if (!keys.single && key && isSingle(key)) told += ' Letters alone are switched off: it does nothing yet.';
	}
</script>

<Sheet {bench} title="Keys" line="Everything also by typing a word for it: Ctrl + K, or /.">
	<div class="top">
		<Toggle
			on="letters alone do things"
			off="only with Ctrl or Alt"
			says="Letters and signs without Ctrl can be switched off, for those who speak to the computer or lean on the keys."
			act="single-keys"
			checked={keys.single}
			onset={(single) => (keys.single = single)}
		/>
		<input
			type="search"
			class="field"
			placeholder="a command to give a key to"
			aria-label="Find a command to change its key"
			bind:value={sought}
			data-field="find-key"
		/>
		{#if keys.isChanged}
			<button class="word" onclick={() => keys.reset()} data-act="reset-keys">all as they come</button>
		{/if}
	</div>
	<p class="told" role="status" data-fact="key-told">
		{waiting ? 'Press the new key; Delete takes it away, Esc leaves it.' : told}
	</p>
	<div class="columns">
		<ul>
			{#each found as command (command.id)}
				{@const key = keys.given(command)}
				<li>
					<button
						class="key"
						class:off={!keys.of(command)}
						aria-label="Key of {command.word}: {key ? keyName(key) : 'none'}"
						aria-pressed={waiting === command.id}
						disabled={command.isBrowsers}
						onclick={() => (waiting = command.id)}
						onkeydown={(e) => take(e, command)}
						onblur={() => (waiting = undefined)}
						data-key={command.id}>{waiting === command.id ? '…' : key ? keyName(key) : '–'}</button
					>
					{command.word}
				</li>
			{:else}<li class="quiet">No command by that word.</li>{/each}
		</ul>
		<dl>
			{#each HAND as [key, line] (key)}<dt>{key}</dt>
				<dd>{line}</dd>{/each}
		</dl>
	</div>
</Sheet>

<style>
	.top {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 24px;
		align-items: center;
		margin-top: 10px;
	}
	.top .field {
		width: 16em;
	}
	.told {
		min-height: 1.4em;
		margin: 4px 0;
		color: var(--soft);
	}
	.columns {
		display: grid;
		grid-template-columns: minmax(0, 2fr) minmax(0, 1.2fr);
		gap: 26px;
		font-size: 14.5px;
	}
	@media (max-width: 700px) {
		.columns {
			grid-template-columns: 1fr;
		}
	}
	ul {
		list-style: none;
		margin: 0;
		padding: 0;
		columns: 2 200px;
	}
	li {
		break-inside: avoid;
		padding: 1px 0;
	}
	.key {
		min-width: 6.5em;
		margin-right: 8px;
		padding: 1px 6px;
		border: 1px solid var(--slip-edge);
		border-bottom-width: 2px;
		border-radius: 3px;
		background: none;
		color: inherit;
		font: inherit;
		font-weight: 600;
		text-align: left;
		cursor: pointer;
	}
	.key[aria-pressed='true'] {
		border-color: var(--madder);
	}
	.key.off {
		color: var(--soft);
		text-decoration: line-through;
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
	}
	dd {
		margin: 0;
		color: var(--soft);
	}
</style>
