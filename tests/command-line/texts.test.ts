/** What people read is gathered by station, and a translation takes its place while the app is built. */
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import type { Component } from 'svelte';
import { compile } from 'svelte/compiler';
import { render } from 'svelte/server';
import { transformWithOxc } from 'vite';
import { expect, test } from 'vitest';
import { findTexts, parsed } from '../../scripts/texts/find.mjs';
import { sources } from '../../scripts/texts/sources.mjs';
import { translated } from '../../scripts/texts/translate.mjs';

test('texts/en is what the code says', () => {
	const run = spawnSync('node', ['scripts/gather-texts.mjs', '--check'], { encoding: 'utf8' });
	expect(run.stderr).toBe('');
	expect(run.status).toBe(0);
});

test('a text has its values in it, and a translation may turn them round; what it lacks stays', async () => {
	const code = `<script lang="ts">
	let { n = 3, name = 'Fox' }: { n?: number; name?: string } = $props();
	const sentence = $derived(\`\${n} of "\${name}" are \${n > 1 ? 'left over' : 'gone'}.\`);
</script>
<p aria-description="Keeps {n} pieces.">Pieces of {name}: <b>{n} pieces</b> {sentence}</p>`;
	expect(findTexts(parsed(code, 'a.svelte')).map(({ text }) => text)).toEqual([
		'Fox',
		'{0} of "{1}" are {2}.',
		'left over',
		'gone',
		'Keeps {0} pieces.',
		'Pieces of {0}:',
		'{0} pieces'
	]);
	const words: Record<string, string> = {
		'{0} of "{1}" are {2}.': 'Von „{1}“ sind {0} {2} {viel} `',
		'left over': 'übrig',
		'Keeps {0} pieces.': '"{0}" & <mehr>',
		'Pieces of {0}:': 'Teile ohne Namen',
		'{0} pieces': 'Teile: {0}'
	};
	const own = translated(code, 'a.svelte', (text) => words[text]);
	const { js } = compile(own, { generate: 'server', filename: 'a.svelte' });
	const module = `data:text/javascript,${encodeURIComponent(
		js.code.replace(
			/from 'svelte\/internal\/server'/,
			`from '${import.meta.resolve('svelte/internal/server')}'`
		)
	)}`;
	const made = (await import(/* @vite-ignore */ module)) as { default: Component };
	const { body } = render(made.default);
	expect(body).toContain('Von „Fox“ sind 3 übrig {viel} `');
	expect(body).toContain('aria-description="&quot;3&quot; &amp; &lt;mehr>"');
	expect(body).toContain('<b>Teile: 3</b>');
	// It does not name the value: the text stays as it was.
	expect(body).toContain('Pieces of Fox:');
});

test('every source file stays one with every text of it made longer', async () => {
	let count = 0;
	for (const file of sources()) {
		const code = readFileSync(file, 'utf8');
		const own = translated(code, file, (text) => {
			count++;
			return `${text} ${'~'.repeat(Math.ceil(0.4 * text.length))}`;
		});
		if (file.endsWith('.svelte')) compile(own, { generate: 'client', filename: file });
		else await transformWithOxc(own, file);
	}
	expect(count).toBeGreaterThan(3000);
});
