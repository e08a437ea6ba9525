/** The material as it has been cut so far, seen from above: the deeper, the darker; what is cut through is gone. */
import { arcShape } from '../core/geometry/arc';
import { FEED, moveAt, moveStart, type Toolpath } from '../core/toolpath/moves';
import type { CutTool } from '../core/document/job';

export interface MaterialSize {
	/** mm */
	readonly width: number;
	readonly height: number;
	readonly thickness: number;
}

/** px of the longer side: enough for what a window shows. */
const MOST_PX = 1600;
/** Pictures that are kept on the way, so that going back begins near. */
const KEPT = 16;
/** ms of work between which the window has its turn while pictures ahead are made. */
const AHEAD_MS = 12;

/** Tones from whole to cut through: paper, wood, the dark below. */
const WHOLE = [214, 196, 160];
const DEEP = [120, 98, 66];
const THROUGH = [38, 34, 30];

const tone = (share: number): string => {
	if (share >= 1) return `rgb(${THROUGH.join()})`;
	const mix = WHOLE.map((v, i) => Math.round(v + (DEEP[i] - v) * (0.25 + 0.75 * share)));
	return `rgb(${mix.join()})`;
};

/** How wide a tool cuts at a depth, mm. */
export function widthAt(tool: CutTool, depth: number): number {
	if (tool.kind === 'beam') return tool.kerf;
	if (tool.kind === 'knife') return 0.12;
	if (tool.kind === 'pen') return tool.width;
	if (tool.shape === 'vee')
		return Math.min(tool.diameter, 2 * depth * Math.tan((((tool.angle ?? 60) / 2) * Math.PI) / 180));
	if (tool.shape === 'ball') {
		const r = tool.diameter / 2;
		return depth >= r ? tool.diameter : 2 * Math.sqrt(Math.max(0, 2 * r * depth - depth * depth));
	}
	return tool.diameter;
}

/** A picture of the sheet that follows a toolpath forth and back. */
export class CutMaterial {
	private readonly shown: Plate;
	private readonly kept: Plate[] = [];
	private timer: ReturnType<typeof setTimeout> | undefined;

	constructor(
		path: Toolpath,
		/** Which tool makes each move. */
		toolOf: (move: number) => CutTool,
		size: MaterialSize
	) {
		this.shown = new Plate(path, toolOf, size);
		this.ahead(new Plate(path, toolOf, size), Math.max(500, Math.ceil(path.kinds.length / KEPT)));
	}
	get picture(): HTMLCanvasElement {
		return this.shown.picture;
	}

	/** Makes pictures of the way to come, a little at a time, so that a jump begins near. */
	private ahead(plate: Plate, each: number): void {
		this.timer = setTimeout(() => {
			const until = performance.now() + AHEAD_MS;
			while (performance.now() < until) {
				const next = (Math.floor(plate.done / each) + 1) * each;
				if (next >= plate.count) return;
				if (plate.goOn(next, until)) this.kept.push(plate.copy());
			}
			this.ahead(plate, each);
		});
	}
	/** No more pictures are made. */
	rest(): void {
		clearTimeout(this.timer);
	}

	/**
	 * Shows all moves before `move`, and of that one a share, as far as it comes in that many ms.
	 * @returns whether it came there.
	 */
	show(move: number, share: number, ms: number): boolean {
		const { shown } = this;
		const near = this.kept.filter((plate) => plate.done <= move).at(-1);
		if (near ? move < shown.done || near.done > shown.done : move < shown.done) shown.become(near);
		const isThere = shown.goOn(move, performance.now() + ms);
		if (isThere && share > 0 && move < shown.count) shown.stroke(move, share);
		return isThere;
	}
}

/** A picture of the sheet as it is after so many moves. */
class Plate {
	readonly picture: HTMLCanvasElement;
	private readonly c: CanvasRenderingContext2D;
	private readonly scale: number;
	/** Moves that are drawn whole. */
	done = 0;

	constructor(
		private readonly path: Toolpath,
		private readonly toolOf: (move: number) => CutTool,
		private readonly size: MaterialSize
	) {
		this.scale = MOST_PX / Math.max(size.width, size.height);
		this.picture = document.createElement('canvas');
		this.picture.width = Math.max(1, Math.round(size.width * this.scale));
		this.picture.height = Math.max(1, Math.round(size.height * this.scale));
		this.c = this.picture.getContext('2d')!;
		this.begin();
	}
	get count(): number {
		return this.path.kinds.length;
	}

	private begin(): void {
		const { c } = this;
		c.setTransform(1, 0, 0, 1, 0, 0);
		c.globalCompositeOperation = 'source-over';
		c.fillStyle = `rgb(${WHOLE.join()})`;
		c.fillRect(0, 0, this.picture.width, this.picture.height);
		this.done = 0;
		this.ready();
	}

	private ready(): void {
		const { c, scale, size } = this;
		c.setTransform(scale, 0, 0, -scale, 0, size.height * scale);
		// What was cut deeper before stays as deep.
		c.globalCompositeOperation = 'darken';
		c.lineCap = c.lineJoin = 'round';
	}

	/** Takes the state of another; of none, that of the whole sheet. */
	become(other: Plate | undefined): void {
		if (!other) {
			this.begin();
			return;
		}
		this.c.setTransform(1, 0, 0, 1, 0, 0);
		this.c.globalCompositeOperation = 'source-over';
		this.c.drawImage(other.picture, 0, 0);
		this.done = other.done;
		this.ready();
	}
	copy(): Plate {
		const plate = new Plate(this.path, this.toolOf, this.size);
		plate.become(this);
		return plate;
	}
	/** Draws on up to a move, until a time (ms of the clock). @returns whether it came there. */
	goOn(move: number, until: number): boolean {
		for (; this.done < move; this.done++) {
			if (this.done % 64 === 0 && performance.now() > until) return false;
			this.stroke(this.done, 1);
		}
		return true;
	}

	stroke(i: number, share: number): void {
		const { path, c } = this;
		if (path.kinds[i] !== FEED || !path.on[i]) return;
		const tool = this.toolOf(i);
		const [x, y, z] = moveStart(path, i, from);
		const to =
			share < 1
				? moveAt(path, i, share)
				: { x: path.to[3 * i], y: path.to[3 * i + 1], z: path.to[3 * i + 2] };
		const isCutter = tool.kind === 'cutter';
		if (isCutter && tool.shape !== undefined && tool.shape !== 'flat' && Math.abs(to.z - z) > 0.02) {
			this.taper(tool, { x, y, z }, i, share);
			return;
		}
		const depth = isCutter ? -Math.min(z, to.z) : this.size.thickness;
		if (isCutter && depth <= 1e-6) return;
		c.strokeStyle = tone(isCutter ? depth / this.size.thickness : tool.kind === 'pen' ? 0.4 : 1);
		// Never thinner than a pixel of the picture.
		c.lineWidth = Math.max(1 / this.scale, widthAt(tool, depth));
		c.beginPath();
		c.moveTo(x, y);
		const b = path.bulges[i];
		if (b === 0) c.lineTo(to.x === x && to.y === y ? x + 1e-3 : to.x, to.y);
		else {
			const { cx, cy, radius, startRad, sweepRad } = arcShape(x, y, path.to[3 * i], path.to[3 * i + 1], b);
			c.arc(cx, cy, radius, startRad, startRad + sweepRad * share, sweepRad < 0);
		}
		c.stroke();
	}

	/** A move of a bit that is wider the deeper it is, while its depth changes: in short pieces. */
	private taper(
		tool: CutTool,
		start: { readonly x: number; readonly y: number; readonly z: number },
		i: number,
		share: number
	): void {
		const { path, c, size } = this;
		const parts = Math.min(60, Math.ceil(Math.abs(path.to[3 * i + 2] - start.z) / 0.05));
		let last = start;
		for (let k = 1; k <= parts; k++) {
			const next = moveAt(path, i, (share * k) / parts);
			const depth = -(last.z + next.z) / 2;
			if (depth > 1e-6) {
				c.strokeStyle = tone(depth / size.thickness);
				c.lineWidth = Math.max(1 / this.scale, widthAt(tool, depth));
				c.beginPath();
				c.moveTo(last.x, last.y);
				c.lineTo(next.x === last.x && next.y === last.y ? next.x + 1e-3 : next.x, next.y);
				c.stroke();
			}
			last = next;
		}
	}
}

const from = [0, 0, 0];
