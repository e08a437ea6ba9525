/** How closely two ends of lines meet. */

/** How closely: the same place, the same direction as well, the same curvature as well. */
export const MEET_WAYS = ['place', 'direction', 'curvature'] as const;
export type MeetWay = (typeof MEET_WAYS)[number];

/** How the bridge meets one end. */
export interface BridgeEnd {
	readonly way: MeetWay;
	/** How far it goes on as the line went before it turns away; 1: as far as the gap asks. */
	readonly pull: number;
}
