<script lang="ts">
	import type { MachineBench } from '$lib/stores/machining/machine-bench.svelte';
	import { SAMPLE } from '$lib/core/geometry/deviation';
	import { drawnMoves } from '$lib/core/toolpath/drawn';
	import { strokePaths } from '$lib/render/lines';
	import { theme } from '$lib/stores/theme.svelte';
	import { DAY, LAMP } from '$lib/render/palette';

	let { machine }: { machine: MachineBench } = $props();
	const STATES: Record<string, [word: string, line: string]> = {
		resting: ['Resting', 'It waits for a job.'],
		working: ['Working', 'It goes along its lines.'],
		holding: ['Holding', 'It stands where it is and can go on.'],
		halted: ['Halted', 'The job was broken off.'],
		open: ['Cover open', 'Everything is off until it is closed.'],
		dark: ['No power', 'It says nothing.'],
		homing: ['Going home', '']
	};
	const standing = $derived(machine.standing);
	const how = $derived(
		STATES[machine.sending && standing?.state === 'resting' ? 'working' : (standing?.state ?? '')] ?? [
			'Not reached',
			'No answer yet.'
		]
	);
	const share = $derived(standing && machine.isOurs ? standing.done / machine.messages.length : 0);
	const HURRIES = [1, 5, 20, 100, 0];
	const mm = (v: number) => v.toFixed(2);
	/** mm: less is not drawn; how much larger it is drawn, and px up to which. */
	const LEAST_SEEN = 0.01;
	const GAIN = 20;
	const MOST_STROKE = 30;

	let canvas = $state<HTMLCanvasElement>();
	const job = $derived(drawnMoves(machine.told0));
	const gone = $derived(machine.trail ? drawnMoves(machine.trail) : undefined);
	$effect(() => {
		const c = canvas?.getContext('2d');
		if (!canvas || !c) return;
		const palette = theme.lamp ? LAMP : DAY;
		const { width, height } = machine.sheet;
		const ratio = window.devicePixelRatio || 1;
		const px = Math.min(640 / width, 430 / height);
		canvas.width = Math.ceil((width * px + 20) * ratio);
		canvas.height = Math.ceil((height * px + 20) * ratio);
		canvas.style.width = `${canvas.width / ratio}px`;
		c.setTransform(px * ratio, 0, 0, -px * ratio, 10 * ratio, (height * px + 10) * ratio);
		c.fillStyle = palette.weave;
		c.fillRect(0, 0, width, height);
		c.lineJoin = c.lineCap = 'round';
		c.strokeStyle = palette.faint;
		c.lineWidth = 1 / px;
		c.setLineDash([4 / px, 4 / px]);
		for (const line of job.cuts) for (const piece of strokePaths(line)) c.stroke(piece);
		c.setLineDash([]);
		c.strokeStyle = palette.ink;
		c.lineWidth = 2.2 / px;
		for (const line of gone?.cuts ?? []) for (const piece of strokePaths(line)) c.stroke(piece);
		// What lies off, many times as large as it is: whole strokes where material was left, dotted to the other side where too much went.
		c.lineWidth = 1 / px;
		for (const { samples } of machine.compared?.deviations ?? [])
			for (let i = 0; i < samples.length; i += SAMPLE) {
				const off = samples[i + 4];
				if (Math.abs(off) < LEAST_SEEN) continue;
				const long = (off > 0 ? 1 : -1) * Math.min(MOST_STROKE / px, Math.abs(off) * GAIN);
				c.setLineDash(off > 0 ? [] : [1.5 / px, 1.5 / px]);
				c.strokeStyle = off > 0 ? palette.rust : palette.madder;
				c.beginPath();
				c.moveTo(samples[i], samples[i + 1]);
				c.lineTo(samples[i] + samples[i + 2] * long, samples[i + 1] + samples[i + 3] * long);
				c.stroke();
			}
		c.setLineDash([]);
		if (standing && standing.state !== 'dark') {
			const r = 7 / px;
			c.strokeStyle = palette.madder;
			c.lineWidth = 2 / px;
			c.beginPath();
			c.arc(standing.x, standing.y, r, 0, 2 * Math.PI);
			c.moveTo(standing.x - 2 * r, standing.y);
			c.lineTo(standing.x + 2 * r, standing.y);
			c.moveTo(standing.x, standing.y - 2 * r);
			c.lineTo(standing.x, standing.y + 2 * r);
			c.stroke();
		}
	});
</script>

<div class="bench" data-testid="machine-bench" data-state={standing?.state ?? ''}>
	<div class="seen">
		<canvas bind:this={canvas} aria-label="The sheet, what is cut so far and where the tool is"></canvas>
		<div class="row">
			<div
				class="bar"
				role="progressbar"
				aria-label="How much is done"
				aria-valuenow={Math.round(100 * share)}
			>
				<div style:width="{100 * share}%"></div>
			</div>
			<span class="quiet" data-fact="lines"
				>{machine.isOurs ? (standing?.done ?? 0) : 0} of {machine.messages.length} lines</span
			>
		</div>
		{#if machine.told}<p role="status" data-testid="machine-told">{machine.told}</p>{/if}
		{#if machine.compared}
			{@const { apart, told, cut, judged, rest, gouged } = machine.compared}
			<p data-testid="machine-compared">
				Cut and job lie at most <b data-fact="apart">{apart.toFixed(4)}</b> mm apart; {(cut / 1000).toFixed(
					3
				)} of
				{(told / 1000).toFixed(3)} m were cut{#if judged}; into what is kept it goes at most <b
						data-fact="gouge">{judged.gouge.toFixed(4)}</b
					>
					mm ({gouged.toFixed(2)} mm²), and <b data-fact="rest">{rest.toFixed(2)}</b> mm² were left beside the
					lines: strokes show where, {GAIN} times as large{/if}.
			</p>
		{/if}
	</div>
	<div class="panel">
		<div class="state">
			<b data-fact="state">{machine.dropped ? 'No connection' : how[0]}</b>
			<span class="quiet">{machine.dropped ? 'It is tried again until it answers.' : how[1]}</span>
		</div>
		<div class="place">
			<span><i>x</i> {mm(standing?.x ?? 0)}</span>
			<span><i>y</i> {mm(standing?.y ?? 0)}</span>
			{#if machine.file.language === 'gcode'}<span><i>z</i> {mm(standing?.z ?? 0)}</span>{/if}
		</div>
		<div class="row">
			<button
				class="word strong"
				data-act="begin-job"
				disabled={machine.sending}
				aria-description="Sends the job from its first line."
				onclick={() => void machine.begin()}>Begin</button
			>
			{#if standing?.state === 'holding'}
				<button
					class="word"
					data-act="go-on"
					aria-description="It goes on where it stands."
					onclick={() => machine.say('on')}>Go on</button
				>
			{:else}
				<button
					class="word"
					data-act="hold"
					disabled={!machine.isOurs}
					aria-description="It stands where it is; nothing is lost."
					onclick={() => machine.say('hold')}>Hold</button
				>
			{/if}
			<button
				class="word"
				data-act="home"
				disabled={machine.sending}
				aria-description="The tool goes to its corner."
				onclick={() => void machine.goHome()}>Home</button
			>
		</div>
		<button
			class="stop"
			data-act="stop-machine"
			aria-description="Stops at once and forgets the rest of the job."
			onclick={() => machine.say('stop')}>STOP</button
		>
		<label class="row"
			>Feeds
			<input
				type="range"
				min="10"
				max="150"
				step="5"
				value={machine.pace}
				disabled={!machine.isOurs}
				aria-description="Slower or faster than the job says."
				onchange={(e) => void machine.setPace(Number(e.currentTarget.value))}
			/><span>{machine.pace} %</span></label
		>
		<ul class="says" aria-label="What the machine says">
			{#each standing?.says.slice(-5) ?? [] as sentence, i (i)}<li>{sentence}</li>{/each}
		</ul>
		<fieldset>
			<legend>beside the simulated machine</legend>
			<div class="row">
				<button
					class="word"
					data-act="cover"
					aria-description="Lifts or closes its cover."
					onclick={() => machine.beside(standing?.state === 'open' ? 'cover close' : 'cover open')}
					>{standing?.state === 'open' ? 'close the cover' : 'open the cover'}</button
				>
				<button
					class="word"
					data-act="power"
					aria-description="Takes its power away, or gives it back."
					onclick={() => machine.beside(standing?.state === 'dark' ? 'power on' : 'power off')}
					>{standing?.state === 'dark' ? 'power on' : 'power off'}</button
				>
				<button
					class="word"
					data-act="cable"
					aria-description="The connection drops; plugged in again it goes on where it was."
					onclick={() => (machine.unplugged = !machine.unplugged)}
					>{machine.unplugged ? 'plug it in' : 'pull the cable'}</button
				>
			</div>
			<div class="row">
				<span class="quiet">as fast as</span>
				{#each HURRIES as times (times)}
					<button
						class="word"
						aria-pressed={machine.hurry === times}
						data-hurry={times}
						aria-description="How fast its time goes."
						onclick={() => (machine.sending ? void machine.setHurry(times) : (machine.hurry = times))}
						>{times === 0 ? 'at once' : times === 1 ? 'in truth' : `${times} ×`}</button
					>
				{/each}
			</div>
		</fieldset>
	</div>
</div>

<style>
	.bench {
		display: flex;
		gap: 24px;
		margin: 12px 0;
		flex-wrap: wrap;
	}
	.seen {
		flex: 1 1 420px;
		min-width: 0;
	}
	canvas {
		max-width: 100%;
	}
	.bar {
		flex: 1;
		height: 8px;
		background: var(--wash);
	}
	.bar div {
		height: 100%;
		background: var(--woad);
	}
	input[type='range'] {
		accent-color: var(--woad);
	}
	p {
		margin: 6px 0 0;
	}
	.panel {
		width: 330px;
		display: grid;
		gap: 10px;
		align-content: start;
	}
	.state {
		display: grid;
	}
	.state b {
		font-size: 26px;
		line-height: 1.1;
	}
	.place {
		display: flex;
		gap: 16px;
		font-variant-numeric: tabular-nums;
	}
	.place i {
		color: var(--soft);
		font-style: normal;
	}
	.stop {
		height: 72px;
		border: 3px solid var(--rust);
		border-radius: 36px 8px 36px 8px;
		background: var(--rust);
		color: #fff;
		font: inherit;
		font-size: 28px;
		font-weight: 700;
		letter-spacing: 0.12em;
	}
	.stop:focus-visible {
		outline: 3px solid var(--madder);
		outline-offset: 3px;
	}
	.says {
		min-height: 76px;
		margin: 0;
		padding: 6px 0 6px 10px;
		list-style: none;
		border-left: 2px solid var(--soft);
		font-size: 14px;
	}
	fieldset {
		border: 1px dashed var(--soft);
		padding: 4px 10px 8px;
	}
	legend {
		color: var(--soft);
		font-size: 12px;
	}
	fieldset .word {
		font-weight: 400;
		padding: 0 6px;
	}
</style>
