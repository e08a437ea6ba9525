/** A plain sentence about an element: read out, and shown in the hint line on hover, focus and long press. */
import 'svelte/elements';

declare module 'svelte/elements' {
	export interface AriaAttributes {
		'aria-description'?: string | undefined | null;
	}
}
