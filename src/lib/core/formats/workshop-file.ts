/** The workshop as a file of its own: JSON by the schema beside, so that it goes from one browser to another. */
import { strFromU8, strToU8 } from 'fflate';
import { validateWorkshop } from '../../generated/validate-workshop';
import type { Workshop } from '../document/job';
import { done, failed, type Result } from '../errors';

/** What the first version of the file says of itself. */
const VERSION = 1;

export const writeWorkshop = (workshop: Workshop): Uint8Array =>
	strToU8(JSON.stringify({ workshop: VERSION, ...workshop }, null, '\t') + '\n');

/** Reads a workshop. @returns it, or `no-workshop` with what is wrong where. */
export function readWorkshop(bytes: Uint8Array): Result<Workshop> {
	let plain: unknown;
	try {
		plain = JSON.parse(strFromU8(bytes));
	} catch {
		return failed('no-workshop', 'This file is no workshop: it is not JSON.');
	}
	if (!validateWorkshop(plain)) {
		const [fault] = validateWorkshop.errors ?? [];
		const where = fault?.instancePath.replaceAll('/', ' ').trim();
		return failed(
			'no-workshop',
			`This file is no workshop${where ? `: ${where} ${fault.message}` : fault?.message ? `: it ${fault.message}` : ''}.`
		);
	}
	const { machines, tools, materials } = plain as unknown as Workshop;
	return done({ machines, tools, materials });
}
