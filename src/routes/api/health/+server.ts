/** Whether the server is well, for whatever watches over it: what is being traced, how long it runs, what memory it takes. */
import { json } from '@sveltejs/kit';
import { traceQueue } from '$lib/server/trace-queue';

export async function GET() {
	return json({
		ok: true,
		...(await (await traceQueue()).load()),
		seconds: Math.round(process.uptime()),
		megabytes: Math.round(process.memoryUsage().rss / 1e6)
	});
}
