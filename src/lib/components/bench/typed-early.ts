/** What was typed into the finder before the finder was there. */
export interface TypedEarly {
	text: string;
	/** Enter was pressed: the best that is found is used as soon as there is somebody to find it. */
	isTaken: boolean;
}
