/** What measuring found out, taken over by the workshop and by jobs: the kerf of beams, the play of a material, the squareness of a machine. */
import { jobsOf } from '../../core/document/drawing';
import { setupFrom } from '../../core/toolpath/recipe';
import type { Bench } from '../bench.svelte';
import { workshop } from './workshop.svelte';

/** mm: so near to it is the kerf that was reckoned with. */
const SAME = 5e-4;

/** The play of a material: kept with it in the workshop; jobs of it that cut true to size make openings that much wider. */
export async function takePlay(bench: Bench, play: number): Promise<void> {
	const rounded = Math.round(play * 1000) / 1000;
	await workshop.load();
	const jobs = jobsOf(bench.drawing);
	const name = jobs.find((job) => !job.off)?.material ?? setupFrom(workshop.has, {})?.material.name;
	const material = workshop.has.materials.find((one) => one.name === name);
	if (material) await workshop.put('materials', { ...material, play: rounded });
	const wider = jobs.filter(
		(job) => job.material === name && (job.side === 'outside' || job.side === 'inside')
	);
	if (wider.length)
		bench.commit(`Play of ${rounded} mm`, {
			put: wider.map((job) => ({ ...job, how: { ...job.how, play: Math.max(0, rounded) } }))
		});
	bench.tell(
		material
			? `"${material.name}" keeps a play of ${rounded} mm${wider.length ? `; openings of ${wider.length} ${wider.length === 1 ? 'job' : 'jobs'} come out that much wider` : ''}.`
			: 'The workshop does not have this material: type the play at the job.'
	);
}

/** How far a machine's axes stand off square: kept with it, and taken out of what it is told. */
export async function takeSquareness(bench: Bench, degrees: number): Promise<void> {
	await workshop.load();
	const jobs = jobsOf(bench.drawing);
	const id = jobs.find((job) => !job.off)?.machine.id ?? setupFrom(workshop.has, {})?.machine.id;
	const machine = workshop.has.machines.find((one) => one.id === id);
	if (!machine) {
		bench.tell('The workshop does not have this machine.');
		return;
	}
	// Measured while what was known before was taken out already.
	const offSquare = Math.round(((machine.offSquare ?? 0) + degrees) * 1000) / 1000;
	await workshop.put('machines', { ...machine, offSquare });
	const own = jobs.filter((job) => job.machine.id === id);
	if (own.length)
		bench.commit(`Axes ${offSquare}° off square`, {
			put: own.map((job) => ({ ...job, machine: { ...job.machine, offSquare } }))
		});
	bench.tell(`"${machine.name}" stands ${offSquare}° off square: what it is told makes up for that.`);
}

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
