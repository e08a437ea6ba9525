/** Gives the keys back to the drawing surface, so that the next one is a command again. */
export function backToSurface(): void {
	document.querySelector<HTMLElement>('[role=application]')?.focus({ preventScroll: true });
}
