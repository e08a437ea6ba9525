/** Whether the server is well, for whatever watches over it: what is being traced, how long it runs, what memory it takes. */
import { json } from '@sveltejs/kit';
import { traceLoad } from '$lib/server/trace-queue';

export function GET() {
	return json({
		ok: true,
		...traceLoad(),
		seconds: Math.round(process.uptime()),
		megabytes: Math.round(process.memoryUsage().rss / 1e6)
	});
}
