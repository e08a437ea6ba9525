#!/usr/bin/env node
import { existsSync } from 'node:fs';

const built = new URL('../dist/even-thread.mjs', import.meta.url);
if (!existsSync(built)) {
	process.stderr.write('The command line is not built yet. Run "npm run build" first.\n');
	process.exit(1);
}
// Who reads what is printed may have gone: that is no error of the work.
process.stdout.on('error', (error) => {
	if (error.code !== 'EPIPE') throw error;
	process.exit(process.exitCode ?? 0);
});
const { main } = await import(built);
process.exitCode = await main(process.argv.slice(2));
