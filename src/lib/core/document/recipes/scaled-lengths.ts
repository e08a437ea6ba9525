/** Lengths among settings under a map. */
import { isSimilarity, type Affine } from '../../geometry/path';

/** Settings with every length scaled as the map scales; undefined where it is no even one. */
export function scaledLengths<S extends object>(
	settings: S,
	names: readonly (keyof S)[],
	map: Affine
): S | undefined {
	if (!isSimilarity(map)) return undefined;
	const scale = Math.sqrt(Math.abs(map[0] * map[3] - map[1] * map[2]));
	// Moved, turned, mirrored: to the bit what it was.
	if (Math.abs(scale - 1) < 1e-12) return settings;
	return { ...settings, ...Object.fromEntries(names.map((n) => [n, (settings[n] as number) * scale])) };
}
