/** How a finger works on the drawing, as the person wishes it. */
import { isWished, wish } from './said/wishes';

class Touch {
	private wished = $state(isWished('touch-grip', false));

	/** What a finger drags or puts lies a little above it, so that the finger covers nothing. */
	get grip(): boolean {
		return this.wished;
	}
	set grip(grip: boolean) {
		this.wished = grip;
		wish('touch-grip', grip);
	}
}

export const touch = new Touch();
