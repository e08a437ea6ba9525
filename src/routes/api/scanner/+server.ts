/** The scanner stand-in: its state, its panel, the start and the end of a scan. */
import { json } from '@sveltejs/kit';
import { problemAnswer } from '$lib/server/answers';
import { readSmall } from '$lib/server/body';
import { scanner, whose } from '$lib/server/scanner';
import { type ScanSettings } from '$lib/workers/scanner.protocol';

export function GET({ request }) {
	return json(scanner.stateFor(whose(request)));
}

export async function POST({ request }) {
	const body = await readSmall(request);
	if (!body.ok) return problemAnswer(body.problem);
	const settings = body.value as Partial<ScanSettings> | undefined;
	if (!isScan(settings))
		return problemAnswer({ code: 'bad-settings', sentence: 'A scan needs a resolution and an area.' });
	const started = scanner.start(settings, whose(request));
	return started.ok ? json(started.value) : problemAnswer(started.problem);
}

/** The panel of the stand-in itself: cover and paper. */
export async function PUT({ request }) {
	const body = await readSmall(request);
	if (!body.ok) return problemAnswer(body.problem);
	const { cover, paper } = body.value ?? {};
	scanner.handle({
		...(cover === 'open' || cover === 'closed' ? { cover } : {}),
		...(typeof paper === 'boolean' ? { paper } : {})
	});
	return json(scanner.stateFor(whose(request)));
}

export function DELETE({ request }) {
	scanner.stop(whose(request));
	return json(scanner.stateFor(whose(request)));
}

const isScan = (settings: Partial<ScanSettings> | undefined): settings is ScanSettings =>
	typeof settings?.dpi === 'number' &&
	typeof settings.area === 'object' &&
	[settings.area?.x, settings.area?.y, settings.area?.w, settings.area?.h].every(Number.isFinite);
