/** The stand-ins for machines that ship with the program: one that reads G-code, one that reads HP-GL. Their clock is the server's. */
import { StandIn, type StandInLimits } from '../core/machine/stand-in';

const LIMITS: Readonly<Record<string, StandInLimits>> = {
	gcode: {
		width: 900,
		height: 600,
		below: 60,
		above: 60,
		rapid: 6000,
		language: 'gcode',
		room: 32
	},
	hpgl: {
		width: 1500,
		height: 1500,
		below: 0,
		above: 0,
		rapid: 30_000,
		language: 'hpgl',
		room: 1024
	}
};

const machines = new Map<string, StandIn>();

/** The machine of that language; undefined where there is none. */
export function machineOf(which: string): StandIn | undefined {
	if (!Object.hasOwn(LIMITS, which)) return undefined;
	let machine = machines.get(which);
	if (!machine) machines.set(which, (machine = new StandIn(LIMITS[which])));
	return machine;
}

/** ms, for the machines. */
export const machineTime = (): number => performance.now();
