/** One tab at a time edits a drawing: a lock per drawing; others read along or take over. */

export interface DrawingHold {
	/** Lets the drawing go. */
	release(): void;
}

/**
 * Asks for the drawing. `got` is told true when this tab holds it, false when another does or has taken it over.
 */
export function holdDrawing(id: string, takeOver: boolean, got: (mine: boolean) => void): DrawingHold {
	let let_go: () => void = () => undefined;
	let released = false;
	if (!('locks' in navigator)) {
		got(true);
		return { release: () => undefined };
	}
	const options: LockOptions = takeOver ? { steal: true } : { ifAvailable: true };
	navigator.locks
		.request(`drawing:${id}`, options, (lock) => {
			if (!lock) {
				got(false);
				return undefined;
			}
			got(true);
			if (released) return undefined;
			return new Promise<void>((resolve) => (let_go = resolve));
		})
		.catch(() => {
			// Another tab has taken it over.
			if (!released) got(false);
		});
	return {
		release() {
			released = true;
			let_go();
		}
	};
}
