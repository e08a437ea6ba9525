<script lang="ts">
	/** Curvature along the length of a line; the pointer on it says where, stretches tighter than the tool are shaded. */
	import * as echarts from 'echarts/core';
	import { LineChart } from 'echarts/charts';
	import { GridComponent, MarkAreaComponent, MarkLineComponent } from 'echarts/components';
	import { SVGRenderer } from 'echarts/renderers';
	import type { LengthUnit } from '$lib/core/document/drawing';
	import { theme } from '$lib/stores/theme.svelte';
	import { tightStretches, TOOTH, type Comb } from '$lib/core/geometry/comb';
	import { formatLength, MM_PER, formatNumber, unitWord } from '$lib/core/units';

	echarts.use([LineChart, GridComponent, MarkAreaComponent, MarkLineComponent, SVGRenderer]);

	interface Props {
		comb: Comb;
		/** mm */
		length: number;
		toolRadius: number | undefined;
		/** Where the pointer is on the line, mm along it. */
		along: number | undefined;
		unit: LengthUnit;
		onpoint: (along: number | undefined) => void;
		onpick: () => void;
	}
	let { comb, length, toolRadius, along, unit, onpoint, onpick }: Props = $props();

	/** Teeth of which the most bent ones do not set the scale. */
	const MOST_SHARE = 0.98;
	/** 1/mm: a radius of more than 10 m is no bend. */
	const LEAST_BEND = 1e-4;
	/** The bend of the tool is shown up to so many times that of the line. */
	const TOOL_SHOWN = 2.5;
	const tight = $derived(toolRadius === undefined ? [] : tightStretches(comb, toolRadius));
	/** Curvature up to which the chart reaches: that of nearly all teeth, or of the tool. */
	const reach = $derived.by(() => {
		const bends: number[] = [];
		for (let i = 4; i < comb.teeth.length; i += TOOTH) bends.push(Math.abs(comb.teeth[i]));
		bends.sort((a, b) => a - b);
		const usual = bends[Math.floor(MOST_SHARE * (bends.length - 1))] ?? 0;
		const bent = Math.max(usual, 0.4 * comb.most, 1e-6);
		const tool = toolRadius === undefined ? 0 : 1 / toolRadius;
		// The tool's bend is shown where the line comes near it.
		return 1.15 * (tool < TOOL_SHOWN * bent ? Math.max(bent, tool) : bent);
	});
	const data = $derived.by(() => {
		const out: [number, number][] = [];
		for (let i = 0; i < comb.teeth.length; i += TOOTH)
			out.push([comb.teeth[i + 5] / MM_PER[unit], Math.max(-reach, Math.min(reach, comb.teeth[i + 4]))]);
		return out;
	});

	function draw(element: HTMLDivElement) {
		const chart = echarts.init(element, undefined, { renderer: 'svg' });
		const style = getComputedStyle(document.documentElement);
		const colour = (name: string) => style.getPropertyValue(name).trim();
		const where = (event: { offsetX: number; offsetY: number }) => {
			const [x] = chart.convertFromPixel({ gridIndex: 0 }, [event.offsetX, event.offsetY]);
			return Math.min(length, Math.max(0, Number(x) * MM_PER[unit]));
		};
		chart.getZr().on('mousemove', (event) => onpoint(where(event)));
		chart.getZr().on('globalout', () => onpoint(undefined));
		chart.getZr().on('click', (event) => {
			onpoint(where(event));
			onpick();
		});
		const observer = new ResizeObserver(() => chart.resize());
		observer.observe(element);
		const radius = (bend: number) => formatLength(1 / Math.abs(bend), unit);
		$effect(() => {
			// The colours are those of the light.
			void theme.lamp;
			const tool = toolRadius === undefined ? [] : [1 / toolRadius, -1 / toolRadius];
			chart.setOption(
				{
					animation: false,
					grid: { left: 86, right: 12, top: 8, bottom: 22 },
					xAxis: {
						type: 'value',
						min: 0,
						max: length / MM_PER[unit],
						axisLabel: {
							color: colour('--soft'),
							formatter: (v: number) => `${formatNumber(v, 2)} ${unitWord(unit)}`
						},
						axisLine: { lineStyle: { color: colour('--soft') } },
						splitLine: { show: false }
					},
					yAxis: {
						type: 'value',
						min: -reach,
						max: reach,
						interval: reach,
						axisLabel: {
							color: colour('--soft'),
							// A bend is told by its radius.
							formatter: (v: number) =>
								Math.abs(v) < 1e-9
									? 'straight'
									: Math.abs(v) < LEAST_BEND
										? ''
										: `${v > 0 ? 'left' : 'right'} ${radius(v)}`
						},
						splitLine: { lineStyle: { color: colour('--wash') } }
					},
					series: [
						{
							type: 'line',
							data,
							symbol: 'none',
							sampling: 'minmax',
							lineStyle: { color: colour('--woad'), width: 1.6 },
							markArea: {
								silent: true,
								itemStyle: { color: colour('--rust'), opacity: 0.22 },
								data: tight.map((s) => [{ xAxis: s.from / MM_PER[unit] }, { xAxis: s.to / MM_PER[unit] }])
							},
							markLine: {
								silent: true,
								symbol: 'none',
								label: { show: false },
								lineStyle: { color: colour('--rust'), type: 'dashed', width: 1.2 },
								data: tool.map((yAxis) => ({ yAxis }))
							}
						},
						{
							type: 'line',
							data: [],
							markLine: {
								silent: true,
								symbol: 'none',
								label: { show: false },
								lineStyle: { color: colour('--madder'), type: 'solid', width: 1.4 },
								data: along === undefined ? [] : [{ xAxis: along / MM_PER[unit] }]
							}
						}
					]
				},
				true
			);
		});
		return () => {
			observer.disconnect();
			chart.dispose();
		};
	}
</script>

<div
	class="chart"
	{@attach draw}
	role="img"
	aria-label="Curvature along {formatLength(length, unit)} of line; tightest radius {comb.most > 0
		? formatLength(1 / comb.most, unit)
		: 'none: it is straight'}{tight.length ? `; ${tight.length} stretches are tighter than the tool` : ''}"
	data-testid="curvature-chart"
></div>

<style>
	.chart {
		height: 76px;
		width: 100%;
		cursor: crosshair;
	}
</style>
