/**
 * Imports point one way, types counted: routes -> components -> stores -> render, workers, storage -> core; inside the core
 * linear <- geometry <- fit <- plane <- trace <- fairing <- holds <- document <- check <- arrange <- toolpath <- formats <- machine, operations.
 */
const tests = '\\.test\\.ts$';
const only = (name, from, allowed) => ({
	name,
	severity: 'error',
	from: { path: from, pathNot: tests },
	to: { path: '^src/', pathNot: allowed }
});

/** The core's folders, each of which may use those before it. */
const CORE = [
	'linear',
	'geometry',
	'fit',
	'plane',
	'trace',
	'fairing',
	'holds',
	'document',
	'check',
	'arrange',
	'toolpath',
	'formats',
	'machine',
	'operations'
];
const single = '(tolerance|units|errors|progress|chance|expression|bytes)\\.ts$';
const coreLayers = CORE.map((folder, i) =>
	only(
		`core-${folder}`,
		`^src/lib/core/${folder}/`,
		`^src/lib/core/((${CORE.slice(0, i + 1).join('|')})/|${single})${['formats', 'machine', 'operations'].includes(folder) ? '|^src/lib/generated' : ''}`
	)
);

module.exports = {
	forbidden: [
		{
			name: 'core-imports-only-core',
			comment: 'The core imports no interface, worker or storage code.',
			severity: 'error',
			from: { path: '^src/lib/core', pathNot: tests },
			to: { path: '^src/', pathNot: '^src/lib/(core|generated)' }
		},
		{
			name: 'core-uses-no-platform',
			severity: 'error',
			from: { path: '^src/lib/core', pathNot: tests },
			to: { path: 'node_modules/(svelte|konva|idb|comlink|echarts|@skeletonlabs|sharp)|^node:' }
		},
		...coreLayers,
		only('workers-below-interface', '^src/lib/workers', '^src/lib/(core|workers|generated)'),
		only('storage-below-interface', '^src/lib/storage', '^src/lib/(core|storage|generated)'),
		only('render-below-interface', '^src/lib/render', '^src/lib/(core|render)'),
		only(
			'stores-below-components',
			'^src/lib/stores',
			'^src/lib/(core|workers|storage|render|stores|generated)'
		),
		only('components-below-routes', '^src/lib/components', '^src/lib/'),
		only('cli-on-core', '^src/cli', '^src/(cli|lib/(core|server|generated))'),
		{ name: 'no-circular', severity: 'error', from: {}, to: { circular: true } }
	],
	options: {
		doNotFollow: { path: 'node_modules' },
		tsConfig: { fileName: 'tsconfig.json' },
		tsPreCompilationDeps: true,
		enhancedResolveOptions: {
			extensions: ['.ts', '.js', '.mjs', '.svelte', '.svelte.ts', '.json'],
			conditionNames: ['svelte', 'import', 'browser', 'default']
		}
	}
};
