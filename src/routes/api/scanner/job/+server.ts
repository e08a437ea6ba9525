/** What was scanned, as PNG. */
import { problemAnswer } from '$lib/server/answers';
import { scanner, whose } from '$lib/server/scanner';

export async function GET({ request }) {
	const taken = await scanner.take(whose(request));
	if (!taken.ok) return problemAnswer(taken.problem);
	return new Response(new Uint8Array(taken.value), {
		headers: { 'content-type': 'image/png', 'content-disposition': 'attachment; filename="scan.png"' }
	});
}
