<script lang="ts">
	/** Anchors against drift; a click picks a drift. */
	import * as echarts from 'echarts/core';
	import { LineChart } from 'echarts/charts';
	import { GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
	import { SVGRenderer } from 'echarts/renderers';
	import type { LengthUnit } from '$lib/core/document/drawing';
	import { theme } from '$lib/stores/theme.svelte';
	import { formatLength, MM_PER, formatNumber, unitWord } from '$lib/core/units';
	import type { ChartPoint } from '$lib/core/operations/work';

	echarts.use([LineChart, GridComponent, MarkLineComponent, TooltipComponent, SVGRenderer]);

	interface Props {
		points: readonly ChartPoint[];
		chosen: number;
		before: number;
		unit: LengthUnit;
		onpick: (tolerance: number) => void;
	}
	let { points, chosen, before, unit, onpick }: Props = $props();

	function draw(element: HTMLDivElement) {
		const chart = echarts.init(element, undefined, { renderer: 'svg' });
		const style = getComputedStyle(document.documentElement);
		const colour = (name: string) => style.getPropertyValue(name).trim();
		chart.getZr().on('click', (event) => {
			const [x] = chart.convertFromPixel({ gridIndex: 0 }, [event.offsetX, event.offsetY]);
			const mm = Math.pow(10, Number(x)) * MM_PER[unit];
			if (mm > 0) onpick(+mm.toPrecision(3));
		});
		$effect(() => {
			// The colours are those of the light.
			void theme.lamp;
			const data = points
				.filter((p) => p.tolerance > 0)
				.map((p) => [Math.log10(p.tolerance / MM_PER[unit]), p.anchors]);
			chart.setOption(
				{
					animation: false,
					grid: { left: 50, right: 14, top: 14, bottom: 34 },
					tooltip: {
						trigger: 'axis',
						formatter: (list: { value: number[] }[]) =>
							`within ${formatLength(Math.pow(10, list[0].value[0]) * MM_PER[unit], unit)}: ${list[0].value[1]} anchors`
					},
					xAxis: {
						type: 'value',
						min: Math.log10(0.005 / MM_PER[unit]),
						max: Math.log10(2.6 / MM_PER[unit]),
						name: `drift, ${unitWord(unit)}`,
						nameLocation: 'middle',
						nameGap: 20,
						nameTextStyle: { color: colour('--soft') },
						axisLabel: {
							color: colour('--soft'),
							formatter: (v: number) => formatNumber(+Math.pow(10, v).toPrecision(1), 4)
						},
						splitLine: { show: false },
						axisLine: { onZero: false, lineStyle: { color: colour('--soft') } }
					},
					yAxis: {
						type: 'log',
						axisLine: { show: false, onZero: false },
						min: 'dataMin',
						max: Math.max(10, before),
						name: 'anchors',
						nameLocation: 'middle',
						nameGap: 32,
						nameTextStyle: { color: colour('--soft') },
						axisLabel: { color: colour('--soft'), formatter: (v: number) => formatNumber(v, 0) },
						splitLine: { lineStyle: { color: colour('--wash') } }
					},
					series: [
						{
							type: 'line',
							data,
							showSymbol: true,
							symbolSize: 5,
							lineStyle: { color: colour('--madder'), width: 2, type: 'dashed' },
							itemStyle: { color: colour('--madder') },
							markLine: {
								symbol: 'none',
								silent: true,
								label: { show: false },
								lineStyle: { color: colour('--woad'), type: 'solid', width: 1.5 },
								data: [{ xAxis: Math.log10(chosen / MM_PER[unit]) }]
							}
						}
					]
				},
				true
			);
		});
		return () => chart.dispose();
	}
</script>

<figure>
	<div
		class="chart"
		{@attach draw}
		role="img"
		aria-label="Number of anchors against drift: {points
			.map((p) => `${p.anchors} at ${formatLength(p.tolerance, unit)}`)
			.join(', ')}"
	></div>
</figure>

<style>
	figure {
		margin: 0;
		flex: 1 1 300px;
	}
	.chart {
		height: 92px;
		flex: 1 1 300px;
		min-width: 300px;
		cursor: crosshair;
	}
</style>
