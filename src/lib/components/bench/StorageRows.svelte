<script lang="ts">
	/** What the browser's storage holds, whether it lasts, and what of it can be freed by hand. */
	import {
		askToLast,
		freeable,
		freePictures,
		freeThrown,
		freeVersions,
		isScarce,
		roomHere,
		type Freeable,
		type Room
	} from '$lib/storage/room';
	import { storageProblem } from '$lib/stores/files/files';
	import { formatNumber } from '$lib/core/units';

	let room = $state.raw<Room>();
	let free = $state.raw<Freeable>();
	let told = $state('');
	let busy = $state(false);
	async function look(): Promise<void> {
		[room, free] = await Promise.all([roomHere(), freeable()]);
	}
	$effect(() => void look().catch(() => (told = 'The browser does not say how much is used.')));

	const MB = 1e6;
	const size = (bytes: number) =>
		bytes < MB ? `${formatNumber(bytes / 1000, 0)} kB` : `${formatNumber(bytes / MB, 1)} MB`;
	async function act(work: () => Promise<void>, sentence: string): Promise<void> {
		busy = true;
		try {
			await work();
			told = sentence;
		} catch (error) {
			told = storageProblem(error).problem.sentence;
		}
		busy = false;
		await look();
	}
	async function last(): Promise<void> {
		told = (await askToLast())
			? 'The browser keeps all drawings until you clear them yourself.'
			: 'The browser does not promise it. Save the drawings as one file now and then.';
		await look();
	}
	const many = (n: number, one: string, more: string) => `${n} ${n === 1 ? one : more}`;
</script>

<div class="rows" data-testid="storage">
	{#if room}
		<p>
			{#if room.used !== undefined}
				<b data-fact="used">{size(room.used)}</b>
				{room.given ? `of ${size(room.given)} that the browser gives are used.` : 'are used.'}
			{/if}
			{room.lasting
				? 'They stay until you clear them.'
				: 'The browser may clear them by itself when the disk is full.'}
			{#if !room.lasting}
				<button class="word" onclick={() => void last()} data-act="ask-to-last">ask it to keep them</button>
			{/if}
		</p>
		{#if isScarce(room)}
			<p class="scarce">It becomes scarce: save the drawings as one file, and free what you do not need.</p>
		{/if}
	{/if}
	{#if free}
		<p class="free">
			{#if free.thrown.length}
				<button
					class="word"
					disabled={busy}
					onclick={() => void act(() => freeThrown(free!), 'What was thrown away is gone for good.')}
					data-act="free-thrown">remove {many(free.thrown.length, 'drawing', 'drawings')} thrown away</button
				>
			{/if}
			{#if free.byItself.length}
				<button
					class="word"
					disabled={busy}
					onclick={() =>
						void act(
							() => freeVersions(free!),
							'Versions that were kept by themselves are gone; named ones stay.'
						)}
					data-act="free-versions"
					>remove {many(free.byItself.length, 'version', 'versions')} kept by themselves</button
				>
			{/if}
			{#if free.pictures.length}
				<button
					class="word"
					disabled={busy}
					onclick={() => void act(() => freePictures(free!), 'Pictures that no drawing uses are gone.')}
					data-act="free-pictures"
					>remove {many(free.pictures.length, 'picture', 'pictures')} that no drawing uses ({size(
						free.pictureBytes
					)})</button
				>
			{/if}
			{#if !free.thrown.length && !free.byItself.length && !free.pictures.length}
				<span class="quiet">Nothing lies here that is not used.</span>
			{/if}
		</p>
	{/if}
	<p class="quiet" role="status" data-fact="storage-told">{told}</p>
</div>

<style>
	p {
		margin: 0 0 4px;
	}
	.free {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 18px;
	}
	.free .word {
		padding-left: 0;
		font-weight: 400;
	}
	.scarce {
		border-left: 4px double var(--rust);
		padding-left: 8px;
	}
</style>
