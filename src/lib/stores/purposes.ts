/** Purposes given to lines by hand. */
import type { Outline } from '../core/document/outline';
import type { Purpose } from '../core/document/purpose';
import type { Doing } from './parts';

/** Lines get a purpose of their own, or go by their layer's again. */
export function setPurpose(bench: Doing, outlines: readonly Outline[], purpose: Purpose | undefined): void {
	const put = outlines
		.filter((outline) => outline.purpose !== purpose)
		.map(({ purpose: _before, ...outline }): Outline => ({ ...outline, ...(purpose ? { purpose } : {}) }));
	if (put.length === 0) return;
	bench.commit(purpose ? `For ${purpose}` : 'As the layer says', { put });
}
