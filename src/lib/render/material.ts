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
const KEPT = 12;

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
	readonly picture: HTMLCanvasElement;
	private readonly c: CanvasRenderingContext2D;
	private readonly scale: number;
	/** Moves that are drawn whole. */
	private done = 0;
	private readonly kept: { readonly done: number; readonly picture: HTMLCanvasElement }[] = [];

	constructor(
		private readonly path: Toolpath,
		/** Which tool makes each move. */
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

	/** Shows all moves before `move`, and of that one a share. */
	show(move: number, share: number): void {
		if (move < this.done) {
			const near = this.kept.filter((k) => k.done <= move).at(-1);
			if (near) {
				this.c.setTransform(1, 0, 0, 1, 0, 0);
				this.c.globalCompositeOperation = 'source-over';
				this.c.drawImage(near.picture, 0, 0);
				this.done = near.done;
				this.ready();
			} else this.begin();
		}
		const each = Math.max(500, Math.ceil(this.path.kinds.length / KEPT));
		for (; this.done < move; this.done++) {
			this.stroke(this.done, 1);
			if ((this.done + 1) % each === 0 && !this.kept.some((k) => k.done === this.done + 1)) this.keep();
		}
		if (share > 0 && move < this.path.kinds.length) this.stroke(move, share);
	}

	private keep(): void {
		const picture = document.createElement('canvas');
		picture.width = this.picture.width;
		picture.height = this.picture.height;
		picture.getContext('2d')!.drawImage(this.picture, 0, 0);
		this.kept.push({ done: this.done + 1, picture });
		this.kept.sort((a, b) => a.done - b.done);
	}

	private stroke(i: number, share: number): void {
		const { path, c } = this;
		if (path.kinds[i] !== FEED || !path.on[i]) return;
		const tool = this.toolOf(i);
		const [x, y, z] = moveStart(path, i, from);
		const to =
			share < 1
				? moveAt(path, i, share)
				: { x: path.to[3 * i], y: path.to[3 * i + 1], z: path.to[3 * i + 2] };
		const isCutter = tool.kind === 'cutter';
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
}

const from = [0, 0, 0];
