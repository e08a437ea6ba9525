import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

export default ts.config(
	{
		ignores: [
			'node_modules',
			'.svelte-kit',
			'build',
			'dist',
			'src/lib/generated',
			'static',
			'.cache',
			'package/dist',
			'.stryker-tmp'
		]
	},
	js.configs.recommended,
	...ts.configs.recommended,
	...svelte.configs.recommended,
	prettier,
	...svelte.configs.prettier,
	{ languageOptions: { globals: { ...globals.browser, ...globals.node } } },
	{
		rules: {
			'@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
			'no-undef': 'off'
		}
	},
	{
		files: ['**/*.svelte', '**/*.svelte.ts'],
		languageOptions: {
			parserOptions: {
				projectService: true,
				extraFileExtensions: ['.svelte'],
				parser: ts.parser,
				svelteConfig
			}
		},
		rules: {
			'svelte/no-navigation-without-resolve': 'off',
			'svelte/prefer-svelte-reactivity': 'off'
		}
	},
	{
		// The core runs alike in a worker, a test and a page: no browser, no storage, no clock, no chance.
		files: ['src/lib/core/**/*.ts'],
		ignores: ['**/*.test.ts'],
		rules: {
			'no-restricted-globals': [
				'error',
				...[
					'window',
					'document',
					'navigator',
					'self',
					'localStorage',
					'indexedDB',
					'fetch',
					'postMessage',
					'Worker'
				].map((name) => ({ name, message: 'The core uses no interface, worker or storage.' })),
				{ name: 'Date', message: 'The core knows no clock.' }
			],
			'no-restricted-properties': [
				'error',
				{ object: 'Math', property: 'random', message: 'The core knows no chance.' },
				{ object: 'performance', property: 'now', message: 'The core knows no clock.' }
			]
		}
	},
	{
		files: ['**/*.test.ts', 'tests/**/*.ts'],
		rules: {
			'no-restricted-properties': [
				'error',
				{
					object: 'fc',
					property: 'double',
					message: 'Nine of ten lie next to zero: take numberIn of tests/numbers.ts.'
				}
			]
		}
	}
);
