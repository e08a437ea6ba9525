/** Whatever has a plain sentence says it in the hint line: on hover, in focus, under a resting finger. */

/** ms until a resting finger is told what it rests on. */
const REST_MS = 400;

export class Saying {
	/** What the thing under the pointer, in focus or under a resting finger does. */
	sentence = $state<string | undefined>();
	private resting: ReturnType<typeof setTimeout> | undefined;

	/** @param signal ends it. */
	listen(signal: AbortSignal): void {
		addEventListener('pointerover', (event) => this.of(event), { signal });
		addEventListener(
			'focusin',
			(event) => {
				if ((event.target as Element).matches(':focus-visible')) this.of(event);
			},
			{ signal }
		);
		// Not at once: what is focused may be going away just now.
		addEventListener('focusout', () => queueMicrotask(() => (this.sentence = undefined)), { signal });
		addEventListener('pointerdown', (event) => this.rest(event, signal), { signal });
		addEventListener('pointerup', () => clearTimeout(this.resting), { signal });
	}

	private of(event: Event): void {
		const said = (event.target as Element).closest?.('[aria-description]');
		this.sentence = said?.getAttribute('aria-description') ?? undefined;
	}
	private rest(event: PointerEvent, signal: AbortSignal): void {
		clearTimeout(this.resting);
		if (event.pointerType !== 'touch') return;
		this.resting = setTimeout(() => {
			this.of(event);
			addEventListener('pointerup', () => (this.sentence = undefined), { once: true, signal });
		}, REST_MS);
	}
}
