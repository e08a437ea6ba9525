/** A drawing surface that remembers what was drawn on it, for tests without a browser. */

/** One line as it was begun with `moveTo`, px. */
export type Drawn = [x: number, y: number][];

/** What a path was built of: straights and curves by their places, arcs by places along them. */
export class RecordedPath {
	readonly lines: Drawn[] = [];
	closed = 0;
	moveTo(x: number, y: number): void {
		this.lines.push([[x, y]]);
	}
	lineTo(x: number, y: number): void {
		(this.lines.at(-1) ?? this.begin()).push([x, y]);
	}
	bezierCurveTo(a: number, b: number, c: number, d: number, x: number, y: number): void {
		const line = this.lines.at(-1)!;
		const [px, py] = line.at(-1)!;
		for (let k = 1; k <= 32; k++) {
			const t = k / 32;
			const u = 1 - t;
			const at = (p: number, q: number, r: number, s: number) =>
				u * u * u * p + 3 * u * u * t * q + 3 * u * t * t * r + t * t * t * s;
			line.push([at(px, a, c, x), at(py, b, d, y)]);
		}
	}
	arc(x: number, y: number, radius: number, from: number, to: number, back = false): void {
		const line = this.lines.at(-1) ?? this.begin();
		let sweep = to - from;
		if (back && sweep > 0) sweep -= 2 * Math.PI;
		if (!back && sweep < 0) sweep += 2 * Math.PI;
		for (let k = 0; k <= 32; k++) {
			const a = from + (sweep * k) / 32;
			line.push([x + radius * Math.cos(a), y + radius * Math.sin(a)]);
		}
	}
	rect(x: number, y: number, w: number, h: number): void {
		this.lines.push([
			[x, y],
			[x + w, y],
			[x + w, y + h],
			[x, y + h],
			[x, y]
		]);
	}
	closePath(): void {
		this.closed++;
	}
	private begin(): Drawn {
		const line: Drawn = [];
		this.lines.push(line);
		return line;
	}
}

/** One stroke, filling or text, with the look it was given. */
export interface Mark {
	readonly how: 'stroke' | 'fill' | 'text';
	readonly colour: string;
	readonly width: number;
	readonly dash: readonly number[];
	readonly lines: readonly Drawn[];
	readonly text?: string;
}

type Matrix = [number, number, number, number, number, number];

/** Places are remembered as they come out, px, after whatever transform was set. */
export class RecordedCanvas {
	readonly marks: Mark[] = [];
	strokeStyle = '';
	fillStyle = '';
	lineWidth = 1;
	lineJoin = 'miter';
	lineCap = 'butt';
	font = '';
	textBaseline = '';
	textAlign = '';
	globalAlpha = 1;
	private dash: number[] = [];
	private path = new RecordedPath();
	private matrix: Matrix = [1, 0, 0, 1, 0, 0];
	private readonly kept: { matrix: Matrix; dash: number[]; width: number; alpha: number }[] = [];

	beginPath(): void {
		this.path = new RecordedPath();
	}
	moveTo(x: number, y: number): void {
		this.path.moveTo(x, y);
	}
	lineTo(x: number, y: number): void {
		this.path.lineTo(x, y);
	}
	bezierCurveTo(a: number, b: number, c: number, d: number, x: number, y: number): void {
		this.path.bezierCurveTo(a, b, c, d, x, y);
	}
	arc(x: number, y: number, radius: number, from: number, to: number, back?: boolean): void {
		this.path.arc(x, y, radius, from, to, back);
	}
	rect(x: number, y: number, w: number, h: number): void {
		this.path.rect(x, y, w, h);
	}
	closePath(): void {
		this.path.closePath();
	}
	setLineDash(dash: number[]): void {
		this.dash = [...dash];
	}
	getLineDash(): number[] {
		return [...this.dash];
	}
	save(): void {
		this.kept.push({
			matrix: [...this.matrix],
			dash: [...this.dash],
			width: this.lineWidth,
			alpha: this.globalAlpha
		});
	}
	restore(): void {
		const { matrix, dash, width, alpha } = this.kept.pop()!;
		[this.matrix, this.dash, this.lineWidth, this.globalAlpha] = [matrix, dash, width, alpha];
	}
	setTransform(a: number, b: number, c: number, d: number, e: number, f: number): void {
		this.matrix = [a, b, c, d, e, f];
	}
	translate(x: number, y: number): void {
		const [a, b, c, d, e, f] = this.matrix;
		this.matrix = [a, b, c, d, e + a * x + c * y, f + b * x + d * y];
	}
	rotate(by: number): void {
		const [a, b, c, d, e, f] = this.matrix;
		const [cos, sin] = [Math.cos(by), Math.sin(by)];
		this.matrix = [a * cos + c * sin, b * cos + d * sin, c * cos - a * sin, d * cos - b * sin, e, f];
	}
	stroke(path: RecordedPath = this.path): void {
		this.mark('stroke', this.strokeStyle, path.lines);
	}
	fill(path: RecordedPath | string = this.path): void {
		this.mark('fill', this.fillStyle, typeof path === 'string' ? this.path.lines : path.lines);
	}
	fillRect(x: number, y: number, w: number, h: number): void {
		const path = new RecordedPath();
		path.rect(x, y, w, h);
		this.mark('fill', this.fillStyle, path.lines);
	}
	fillText(text: string, x: number, y: number): void {
		this.mark('text', this.fillStyle, [[[x, y]]], text);
	}
	/** The halo behind words: not kept. */
	strokeText(): void {
		return undefined;
	}
	measureText(text: string): { width: number } {
		return { width: 7 * text.length };
	}

	private mark(how: Mark['how'], colour: string, lines: readonly Drawn[], text?: string): void {
		const [a, b, c, d, e, f] = this.matrix;
		const scale = Math.sqrt(Math.abs(a * d - b * c));
		this.marks.push({
			how,
			colour,
			width: this.lineWidth * scale,
			dash: this.dash.map((v) => v * scale),
			lines: lines.map((line) =>
				line.map(([x, y]): [number, number] => [a * x + c * y + e, b * x + d * y + f])
			),
			...(text === undefined ? {} : { text })
		});
	}

	/** It, as the code that draws on it knows it. */
	get context(): CanvasRenderingContext2D {
		return this as unknown as CanvasRenderingContext2D;
	}
	/** What was written, with where. */
	get texts(): { text: string; x: number; y: number; colour: string }[] {
		return this.marks
			.filter((m) => m.how === 'text')
			.map(({ text, lines, colour }) => ({ text: text!, x: lines[0][0][0], y: lines[0][0][1], colour }));
	}
	/** Lines that were stroked in a colour. */
	strokes(colour: string): Drawn[] {
		return this.marks.filter((m) => m.how === 'stroke' && m.colour === colour).flatMap((m) => [...m.lines]);
	}
}
