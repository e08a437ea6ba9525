<script lang="ts">
	/** Machines, tools and materials of this workshop: each can be changed, copied, taken away; all go to a file and come from one. */
	import { GCODE_WORDS } from '$lib/core/formats/gcode-write';
	import { gcodeExample } from '$lib/core/formats/gcode-example';
	import type { CutTool, Machine, MachineKind, Material, Tool } from '$lib/core/document/job';
	import type { Bench } from '$lib/stores/bench.svelte';
	import { saveAs } from '$lib/stores/files/files';
	import { newId } from '$lib/stores/ids';
	import { workshop, type Had } from '$lib/stores/machining/workshop.svelte';
	import NameField from '../parts/NameField.svelte';
	import NumberField from '../parts/NumberField.svelte';
	import Sheet from '../parts/Sheet.svelte';
	import Toggle from '../parts/Toggle.svelte';

	let { bench }: { bench: Bench } = $props();
	void workshop.load();
	const KINDS: { value: MachineKind; word: string }[] = [
		{ value: 'laser', word: 'laser' },
		{ value: 'knife', word: 'drag knife' },
		{ value: 'router', word: 'router' },
		{ value: 'cloth', word: 'cloth cutter' },
		{ value: 'pen', word: 'pen' }
	];
	const HEADS: { value: Had; word: string }[] = [
		{ value: 'machines', word: 'Machines' },
		{ value: 'tools', word: 'Tools' },
		{ value: 'materials', word: 'Materials' }
	];
	let had = $state<Had>('machines');
	let pickedId = $state<string | undefined>();
	let told = $state('');
	let picker = $state<HTMLInputElement>();
	const list = $derived(workshop.has[had] as readonly { id: string; name: string }[]);
	const id = $derived(list.some((one) => one.id === pickedId) ? pickedId : list[0]?.id);
	const machine = $derived(had === 'machines' ? workshop.has.machines.find((m) => m.id === id) : undefined);
	const tool = $derived(had === 'tools' ? workshop.has.tools.find((t) => t.id === id) : undefined);
	const material = $derived(
		had === 'materials' ? workshop.has.materials.find((m) => m.id === id) : undefined
	);
	const example = $derived(machine?.language === 'gcode' ? gcodeExample(machine) : undefined);
	const words = $derived(
		machine && { ...GCODE_WORDS[machine.kind === 'router' ? 'cutter' : 'beam'], ...machine.words }
	);
	/** What cannot be kept is said; what is shown is what is kept. */
	async function keep(work: Promise<void>): Promise<void> {
		try {
			await work;
			told = '';
		} catch (error) {
			told = `This could not be kept in the browser: ${(error as Error).message}`;
		}
	}
	const setMachine = (m: Machine, change: Partial<Machine>) =>
		void keep(workshop.put('machines', { ...m, ...change }));
	const setTool = (t: Tool, change: Partial<Tool>) => void keep(workshop.put('tools', { ...t, ...change }));
	const setCut = (t: Tool, change: object) => setTool(t, { tool: { ...t.tool, ...change } as CutTool });
	const setMaterial = (m: Material, change: Partial<Material>) =>
		void keep(workshop.put('materials', { ...m, ...change }));
	function copy(): void {
		const one = (workshop.has[had] as readonly (Machine & Tool & Material)[]).find((o) => o.id === id);
		if (!one) return;
		const made = { ...one, id: newId(), name: `${one.name}, own` };
		void keep(workshop.put(had, made as never));
		pickedId = made.id;
	}
	async function bring(file: File | undefined): Promise<void> {
		if (!file) return;
		const read = await workshop.bring(new Uint8Array(await file.arrayBuffer()));
		told = read.ok ? `${read.value} things were brought in.` : read.problem.sentence;
	}
</script>

{#snippet number(
	label: string,
	says: string,
	value: number | undefined,
	onset: (v: number) => void,
	suffix = '',
	digits = 0,
	least = 0.001
)}
	<NumberField {label} {says} kind="number" {suffix} {digits} width={12} {value} {least} most={1e6} {onset} />
{/snippet}

<Sheet
	{bench}
	title="Workshop"
	line="What this workshop has. A job keeps a copy of what it uses, so a change here moves no job that is made."
>
	<div class="workshop" data-testid="workshop">
		<div class="row">
			<div class="heads" role="tablist" aria-label="What the workshop has">
				{#each HEADS as head (head.value)}
					<button
						class="word"
						role="tab"
						aria-selected={had === head.value}
						data-had={head.value}
						onclick={() => (had = head.value)}>{head.word}</button
					>
				{/each}
			</div>
			<span class="aside"></span>
			<button
				class="word"
				data-act="write-workshop"
				aria-description="All of it as one file that opens elsewhere."
				onclick={() =>
					saveAs('workshop.json', workshop.asFile() as Uint8Array<ArrayBuffer>, 'application/json')}
				>write to a file</button
			>
			<button
				class="word"
				data-act="bring-workshop"
				aria-description="Takes in what such a file has, beside what is here."
				onclick={() => picker?.click()}>bring in</button
			>
			<input
				bind:this={picker}
				type="file"
				hidden
				accept=".json,application/json"
				data-testid="workshop-file"
				onchange={(e) => {
					const [file] = e.currentTarget.files ?? [];
					e.currentTarget.value = '';
					void bring(file);
				}}
			/>
		</div>
		{#if told}<p role="status" data-testid="workshop-told">{told}</p>{/if}
		<div class="two">
			<ul>
				{#each list as one (one.id)}
					<li>
						<button
							class="word"
							aria-pressed={one.id === id}
							data-one={one.name}
							onclick={() => (pickedId = one.id)}>{one.name}</button
						>
					</li>
				{/each}
				<li class="row">
					<button
						class="word"
						data-act="copy-one"
						aria-description="One more like it, to be changed."
						onclick={copy}>one more like it</button
					>
					{#if id && list.length > 1}
						<button
							class="word"
							data-act="remove-one"
							aria-description="Takes it out of the workshop; jobs that use it keep their copy."
							onclick={() => void keep(workshop.remove(had, id))}>take away</button
						>
					{/if}
				</li>
			</ul>
			<div class="fields">
				{#if machine}
					<NameField
						class="name"
						label="Name"
						value={machine.name}
						onname={(name) => name && setMachine(machine, { name })}
					/>
					<div class="row">
						<label
							>kind <select
								value={machine.kind}
								onchange={(e) => setMachine(machine, { kind: e.currentTarget.value as MachineKind })}
							>
								{#each KINDS as kind (kind.value)}<option value={kind.value}>{kind.word}</option>{/each}
							</select></label
						>
						<NumberField
							label="Wide"
							says="How wide it reaches."
							unit={bench.unit}
							value={machine.width}
							least={1}
							onset={(width) => setMachine(machine, { width })}
						/>
						<NumberField
							label="High"
							says="How far it reaches the other way."
							unit={bench.unit}
							value={machine.height}
							least={1}
							onset={(height) => setMachine(machine, { height })}
						/>
					</div>
					<div class="row">
						{@render number(
							'Travels',
							'How fast it goes from cut to cut.',
							machine.rapid,
							(rapid) => setMachine(machine, { rapid }),
							' mm/min'
						)}
						{@render number(
							'Speeds up',
							'How quickly it comes to its speed: for the time alone.',
							machine.acceleration,
							(acceleration) => setMachine(machine, { acceleration }),
							' mm/s²'
						)}
					</div>
					<div class="row">
						<Toggle
							on="reads G-code"
							off="reads HP-GL"
							checked={machine.language === 'gcode'}
							says="Which files it reads."
							onset={(g) => setMachine(machine, { language: g ? 'gcode' : 'hpgl' })}
						/>
						{#if machine.language === 'gcode'}
							<Toggle
								on="reads arcs"
								off="straights only"
								checked={machine.arcs}
								says="Whether it reads arcs, or gets straights instead."
								onset={(arcs) => setMachine(machine, { arcs })}
							/>
						{/if}
					</div>
					{#if machine.language === 'gcode' && words && example}
						<div class="words">
							{#each [['start', 'At the start'], ['on', 'On'], ['off', 'Off'], ['end', 'At the end']] as const as [key, word] (key)}
								<label
									>{word}<textarea
										rows={key === 'start' ? 3 : 1}
										data-word={key}
										value={words[key]}
										onchange={(e) =>
											setMachine(machine, { words: { ...words, [key]: e.currentTarget.value } })}
									></textarea></label
								>
							{/each}
							<p class="quiet">{'{speed}'} is what turns or burns, {'{name}'} the drawing.</p>
						</div>
						<div class="example">
							<!-- It can be longer than its place: keys scroll it. -->
							<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
							<pre data-testid="example" tabindex="0">{example.text}</pre>
							<p class:trouble={example.faults.length} role="status" data-testid="example-told">
								{example.faults.length
									? `Line ${example.faults[0].line}: ${example.faults[0].why}`
									: 'Our own reader understands all of it.'}
							</p>
						</div>
					{/if}
				{:else if tool}
					<NameField
						class="name"
						label="Name"
						value={tool.name}
						onname={(name) => name && setTool(tool, { name })}
					/>
					<div class="row">
						<label
							>for a <select
								value={tool.machine}
								onchange={(e) => setTool(tool, { machine: e.currentTarget.value as MachineKind })}
							>
								{#each KINDS as kind (kind.value)}<option value={kind.value}>{kind.word}</option>{/each}
							</select></label
						>
						{#if tool.tool.kind === 'cutter'}
							<NumberField
								label="Diameter"
								says="How wide it cuts."
								unit={bench.unit}
								value={tool.tool.diameter}
								least={0.01}
								most={500}
								onset={(diameter) => setCut(tool, { diameter })}
							/>
							<label
								>tip <select
									value={tool.tool.shape ?? 'flat'}
									onchange={(e) => setCut(tool, { shape: e.currentTarget.value })}
								>
									<option value="flat">flat</option><option value="ball">round</option><option value="vee"
										>pointed</option
									>
								</select></label
							>
							{#if tool.tool.shape === 'vee'}
								{@render number(
									'Angle',
									'The whole angle at its tip.',
									tool.tool.angle ?? 60,
									(angle) => setCut(tool, { angle }),
									'°'
								)}
							{/if}
						{:else if tool.tool.kind === 'beam'}
							<NumberField
								label="Kerf"
								says="The full width that a cut takes away."
								unit={bench.unit}
								value={tool.tool.kerf}
								least={0.001}
								most={20}
								onset={(kerf) => setCut(tool, { kerf })}
							/>
						{:else if tool.tool.kind === 'knife'}
							<NumberField
								label="Trails by"
								says="How far its tip lies behind its pivot; 0 for a knife that is turned."
								unit={bench.unit}
								value={tool.tool.offset}
								least={0}
								most={20}
								onset={(offset) => setCut(tool, { offset })}
							/>
						{:else}
							<NumberField
								label="Line"
								says="How wide it draws."
								unit={bench.unit}
								value={tool.tool.width}
								least={0}
								most={50}
								onset={(width) => setCut(tool, { width })}
							/>
						{/if}
						<NumberField
							label="Overcut"
							says="How far it goes on past the start."
							unit={bench.unit}
							value={tool.overcut ?? 0}
							least={0}
							most={100}
							onset={(overcut) => setTool(tool, { overcut })}
						/>
					</div>
				{:else if material}
					<NameField
						class="name"
						label="Name"
						value={material.name}
						onname={(name) => name && setMaterial(material, { name })}
					/>
					<NumberField
						label="Thick"
						says="How thick it is."
						unit={bench.unit}
						value={material.thickness}
						least={0.01}
						most={500}
						onset={(thickness) => setMaterial(material, { thickness })}
					/>
					{#each KINDS as kind (kind.value)}
						{@const how = material.settings[kind.value]}
						<div class="row">
							<Toggle
								on={`on a ${kind.word}`}
								off={`not on a ${kind.word}`}
								checked={how !== undefined}
								says={`Whether a ${kind.word} may work it.`}
								onset={(on) => {
									const { [kind.value]: _one, ...rest } = material.settings;
									setMaterial(material, {
										settings: on ? { ...rest, [kind.value]: { feed: 1000, speed: 100 } } : rest
									});
								}}
							/>
							{#if how}
								{@const set = (change: object) =>
									setMaterial(material, {
										settings: { ...material.settings, [kind.value]: { ...how, ...change } }
									})}
								{@render number(
									'feed',
									'How fast it goes along.',
									how.feed,
									(feed) => set({ feed }),
									' mm/min'
								)}
								{@render number(
									kind.value === 'router' ? 'turns' : 'strength',
									'Turns of the spindle, power or pressure.',
									how.speed,
									(speed) => set({ speed }),
									'',
									0,
									0
								)}
								{#if kind.value === 'router'}
									<NumberField
										label="pass"
										says="How deep one pass goes."
										unit={bench.unit}
										value={how.pass ?? material.thickness}
										least={0.01}
										most={500}
										onset={(pass) => set({ pass })}
									/>
								{/if}
							{/if}
						</div>
					{/each}
				{/if}
			</div>
		</div>
	</div>
</Sheet>

<style>
	.heads {
		display: contents;
	}
	.workshop {
		width: min(980px, 90vw);
		min-height: 430px;
	}
	.aside {
		flex: 1;
	}
	[role='tab'] {
		font-weight: 400;
		color: var(--soft);
	}
	[role='tab'][aria-selected='true'] {
		font-weight: 650;
		color: var(--ink);
	}
	.two {
		display: grid;
		grid-template-columns: 220px 1fr;
		gap: 24px;
		margin-top: 12px;
	}
	ul {
		list-style: none;
		margin: 0;
		padding: 0;
		display: grid;
		gap: 4px;
		align-content: start;
	}
	ul .word {
		font-weight: 400;
	}
	ul .word[aria-pressed='true'] {
		font-weight: 650;
	}
	.fields {
		display: grid;
		gap: 8px;
		align-content: start;
	}
	label {
		display: inline-flex;
		gap: 6px;
		align-items: center;
	}
	select,
	textarea {
		border: none;
		border-bottom: 1px solid var(--soft);
		background: none;
		color: inherit;
		font: inherit;
	}
	.words {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 8px 16px;
	}
	.words label {
		display: grid;
		gap: 0;
		font-size: 14px;
		color: var(--soft);
	}
	.words p,
	.example p {
		margin: 0;
		font-size: 14px;
	}
	textarea,
	pre {
		font-family: ui-monospace, monospace;
		font-size: 13px;
		color: var(--ink);
	}
	pre {
		max-height: 150px;
		overflow: auto;
		margin: 4px 0;
		padding: 6px 10px;
		background: var(--wash);
	}
	.trouble {
		color: var(--rust);
	}
</style>
