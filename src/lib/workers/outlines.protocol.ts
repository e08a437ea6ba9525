/** Messages of the worker that draws outlines beside the picture worker. */
import type { Contour } from '../core/trace/boundary';
import type { Edges, Outlined } from '../core/trace/outlines';

export interface OutlinesApi {
	/** Draws outlines of contours; nothing where a newer request has made this one stale. */
	draw(request: number, edges: Edges, contours: readonly Contour[]): Promise<readonly Outlined[] | undefined>;
	/** Makes requests up to this number stale. */
	stop(request: number): void;
}
