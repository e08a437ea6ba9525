/** The scanner stand-in: its state, its panel, the start and the end of a scan. */
import { json } from '@sveltejs/kit';
import { problemAnswer } from '$lib/server/answers';
import { scanner } from '$lib/server/scanner';
import { type ScanSettings } from '$lib/workers/scanner.protocol';

export function GET() {
	return json(scanner.state);
}

export async function POST({ request }) {
	const settings = (await request.json().catch(() => undefined)) as ScanSettings | undefined;
	if (!settings || typeof settings.dpi !== 'number' || typeof settings.area !== 'object')
		return problemAnswer({ code: 'bad-settings', sentence: 'A scan needs a resolution and an area.' });
	const started = scanner.start(settings);
	return started.ok ? json(started.value) : problemAnswer(started.problem);
}

/** The panel of the stand-in itself: cover and paper. */
export async function PUT({ request }) {
	scanner.handle((await request.json().catch(() => ({}))) as { cover?: 'open' | 'closed'; paper?: boolean });
	return json(scanner.state);
}

export function DELETE() {
	scanner.stop();
	return json(scanner.state);
}
