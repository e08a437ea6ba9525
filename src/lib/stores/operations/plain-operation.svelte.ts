import type { Outline } from '../../core/document/outline';
import type { Result } from '../../core/errors';
import type { Path } from '../../core/geometry/path';
import { nextRequest } from '../../workers/geometry.client';
import { Operation } from './operation.svelte';

/** What changes lines at once, without a worker: quick even for long ones. */
export abstract class PlainOperation extends Operation {
	constructor(readonly outlines: readonly Outline[]) {
		super();
	}
	protected abstract compute(): Result<readonly Path[]>;
	protected async run(): Promise<void> {
		this.request = nextRequest();
		const result = this.compute();
		this.busy = false;
		if (!result.ok) {
			this.fail(result.problem);
			return;
		}
		this.problem = undefined;
		this.preview = result.value;
	}
}
