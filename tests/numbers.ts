/** Numbers by chance for properties. */
import fc from 'fast-check';

const STEPS = 2 ** 31 - 1;

/**
 * A number from `min` to `max`, as likely in every part of that; one in ten is an end, or 0 where it lies between. The doubles of
 * the library are spread over their bits instead: nine of ten lie so near to zero that nothing is turned, moved or bent by them.
 */
export const numberIn = (min: number, max: number): fc.Arbitrary<number> =>
	fc.oneof(
		{
			weight: 9,
			arbitrary: fc.noBias(fc.integer({ min: 0, max: STEPS })).map((k) => min + (max - min) * (k / STEPS))
		},
		{ weight: 1, arbitrary: fc.constantFrom(min, max, ...(min < 0 && max > 0 ? [0] : [])) }
	);
