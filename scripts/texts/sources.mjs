// The source files that may hold what people read.
import { readdirSync } from 'node:fs';

export const sources = () =>
	['src/lib', 'src/routes']
		.flatMap((folder) => readdirSync(folder, { recursive: true }).map((name) => `${folder}/${name}`))
		.filter((file) => /\.(svelte|ts)$/.test(file) && !/\.test\.ts$|\.d\.ts$|lib\/generated\//.test(file))
		.sort();
