/** The workshop that ships: made-up machines, tools and materials with figures that are common practice. */
import type { Workshop } from '../document/job';

export const STOCK: Workshop = {
	machines: [
		{
			id: 'laser',
			name: 'Laser 600 × 400',
			kind: 'laser',
			width: 600,
			height: 400,
			rapid: 12000,
			acceleration: 2000,
			language: 'gcode',
			arcs: true
		},
		{
			id: 'knife',
			name: 'Drag knife 610',
			kind: 'knife',
			width: 610,
			height: 1500,
			rapid: 30000,
			acceleration: 3000,
			language: 'hpgl',
			arcs: false
		},
		{
			id: 'router',
			name: 'Router 900 × 600',
			kind: 'router',
			width: 900,
			height: 600,
			rapid: 5000,
			acceleration: 400,
			language: 'gcode',
			arcs: true
		},
		{
			id: 'cloth',
			name: 'Cloth cutter 1500',
			kind: 'cloth',
			width: 1500,
			height: 1000,
			rapid: 30000,
			acceleration: 2500,
			language: 'hpgl',
			arcs: false
		},
		{
			id: 'pen',
			name: 'Pen plotter A3',
			kind: 'pen',
			width: 420,
			height: 297,
			rapid: 12000,
			acceleration: 2000,
			language: 'hpgl',
			arcs: false
		}
	],
	tools: [
		{ id: 'beam', name: 'Beam 0.15', machine: 'laser', tool: { kind: 'beam', kerf: 0.15 } },
		{ id: 'fine-beam', name: 'Fine beam 0.08', machine: 'laser', tool: { kind: 'beam', kerf: 0.08 } },
		{ id: 'blade', name: 'Blade 0.25', machine: 'knife', tool: { kind: 'knife', offset: 0.25 }, overcut: 1 },
		{
			id: 'strong-blade',
			name: 'Strong blade 0.45',
			machine: 'knife',
			tool: { kind: 'knife', offset: 0.45 },
			overcut: 1.5
		},
		{
			id: 'flat-3',
			name: 'Flat 3',
			machine: 'router',
			tool: { kind: 'cutter', diameter: 3, shape: 'flat', flutes: 2 }
		},
		{
			id: 'flat-2',
			name: 'Flat 2',
			machine: 'router',
			tool: { kind: 'cutter', diameter: 2, shape: 'flat', flutes: 2 }
		},
		{
			id: 'flat-6',
			name: 'Flat 6',
			machine: 'router',
			tool: { kind: 'cutter', diameter: 6, shape: 'flat', flutes: 2 }
		},
		{
			id: 'ball-3',
			name: 'Ball 3',
			machine: 'router',
			tool: { kind: 'cutter', diameter: 3, shape: 'ball', flutes: 2 }
		},
		{
			id: 'vee-60',
			name: 'Vee 60°',
			machine: 'router',
			tool: { kind: 'cutter', diameter: 6, shape: 'vee', angle: 60, flutes: 2 }
		},
		{
			id: 'turned-knife',
			name: 'Turned knife',
			machine: 'cloth',
			tool: { kind: 'knife', offset: 0 },
			overcut: 1
		},
		{ id: 'pen-05', name: 'Pen 0.5', machine: 'pen', tool: { kind: 'pen', width: 0.5 } }
	],
	materials: [
		{
			id: 'birch-3',
			name: 'Birch plywood 3',
			thickness: 3,
			settings: {
				laser: { feed: 700, speed: 800, score: { speed: 0.2, feed: 4 } },
				router: { feed: 1200, plunge: 300, pass: 1.5, speed: 16000 }
			}
		},
		{
			id: 'poplar-6',
			name: 'Poplar plywood 6',
			thickness: 6,
			settings: {
				laser: { feed: 400, speed: 1000, score: { speed: 0.2, feed: 6 } },
				router: { feed: 1200, plunge: 300, pass: 2, speed: 16000 }
			}
		},
		{
			id: 'card-1',
			name: 'Grey card 1',
			thickness: 1,
			settings: {
				laser: { feed: 2400, speed: 350, score: { speed: 0.3, feed: 2 } },
				knife: { feed: 6000, passes: 2, speed: 180, score: { speed: 0.4, feed: 1 } },
				pen: { feed: 6000, speed: 0 }
			}
		},
		{
			id: 'paper',
			name: 'Black paper 0.3',
			thickness: 0.3,
			settings: {
				laser: { feed: 4000, speed: 150, score: { speed: 0.4, feed: 2 } },
				knife: { feed: 12000, speed: 90, score: { speed: 0.5, feed: 1 } },
				pen: { feed: 9000, speed: 0 }
			}
		},
		{
			id: 'felt-3',
			name: 'Felt 3',
			thickness: 3,
			settings: {
				laser: { feed: 1500, speed: 400, score: { speed: 0.3, feed: 3 } },
				cloth: { feed: 20000, speed: 200 }
			}
		},
		{
			id: 'leather-2',
			name: 'Leather 2',
			thickness: 2,
			settings: {
				laser: { feed: 900, speed: 600, score: { speed: 0.3, feed: 3 } },
				cloth: { feed: 8000, speed: 400 }
			}
		}
	]
};
