// The package ships its types where its exports do not lead.
declare module 'tinykeys' {
	export function tinykeys(
		target: Window | HTMLElement,
		bindings: Record<string, (event: KeyboardEvent) => void>
	): () => void;
}
