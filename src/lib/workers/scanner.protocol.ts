/** What the page and the scanner behind the server tell each other. */

export interface ScanSettings {
	/** dots per inch */
	readonly dpi: number;
	readonly colour: boolean;
	/** mm from the glass's upper left corner. */
	readonly area: { readonly x: number; readonly y: number; readonly w: number; readonly h: number };
}

export interface ScannerState {
	readonly state: 'ready' | 'scanning' | 'done' | 'cover-open' | 'no-paper';
	/** 0..1 of the scan under way or just done. */
	readonly progress: number;
	/** mm */
	readonly glass: { readonly w: number; readonly h: number };
	readonly resolutions: readonly number[];
}
