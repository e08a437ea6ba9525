/** A kerf that was found out, taken over: by the workshop's beams and by the jobs that were reckoned with the old one. */
import { jobsOf } from '../../core/document/drawing';
import type { Bench } from '../bench.svelte';
import { workshop } from './workshop.svelte';

/** mm: so near to it is the kerf that was reckoned with. */
const SAME = 5e-4;

export async function takeKerf(bench: Bench, reckoned: number, kerf: number): Promise<void> {
	const rounded = Math.round(kerf * 1000) / 1000;
	const isIt = (tool: { readonly kind: string; readonly kerf?: number }) =>
		tool.kind === 'beam' && Math.abs((tool.kerf ?? 0) - reckoned) < SAME;
	await workshop.load();
	let count = 0;
	for (const tool of workshop.has.tools)
		if (tool.tool.kind === 'beam' && isIt(tool.tool)) {
			count++;
			await workshop.put('tools', { ...tool, tool: { ...tool.tool, kerf: rounded } });
		}
	const jobs = jobsOf(bench.drawing).filter((job) => isIt(job.tool.tool));
	if (jobs.length)
		bench.commit(`Kerf of ${rounded} mm`, {
			put: jobs.map((job) => ({
				...job,
				tool: { ...job.tool, tool: { kind: 'beam' as const, kerf: rounded } }
			}))
		});
	bench.tell(
		count + jobs.length
			? `The kerf is ${rounded} mm now, for ${count} ${count === 1 ? 'tool' : 'tools'} and ${jobs.length} ${jobs.length === 1 ? 'job' : 'jobs'}.`
			: `No beam is reckoned with ${reckoned} mm. Type ${rounded} mm at the tool in the workshop.`
	);
}
