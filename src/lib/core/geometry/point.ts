/** A place on the plane, mm. */
export interface Point {
	readonly x: number;
	readonly y: number;
}
