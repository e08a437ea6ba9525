import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';
import { buildName } from './scripts/fingerprint.mjs';

/** @type {import('@sveltejs/kit').Config} */
export default {
	preprocess: vitePreprocess(),
	compilerOptions: {
		// A description is for every element (WAI-ARIA 1.3); the compiler's list is older.
		warningFilter: ({ code, message }) =>
			!(code.startsWith('a11y_role_supports_aria_props') && message.includes('aria-description'))
	},
	kit: {
		version: { name: buildName().slice(0, 16) },
		// One shell serves every page, also with the network cut.
		paths: { relative: false },
		adapter: adapter({ out: 'build', precompress: true }),
		csp: {
			mode: 'auto',
			directives: {
				'default-src': ['none'],
				'script-src': ['self'],
				'worker-src': ['self'],
				'style-src': ['self'],
				// Skeleton's components and the chart's tooltip set style attributes.
				'style-src-attr': ['unsafe-inline'],
				'font-src': ['self'],
				'img-src': ['self', 'data:', 'blob:'],
				'connect-src': ['self'],
				'manifest-src': ['self'],
				'form-action': ['self'],
				'base-uri': ['none'],
				'object-src': ['none'],
				'frame-ancestors': ['none']
			}
		}
	}
};
