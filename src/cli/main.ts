/** The command line: one thin adapter a verb over the core. */
import { CoreError } from '../lib/core/errors';
import { readWords, UsageError } from './options';
import type { Verb } from './verb';
import { allowance } from './verbs/allowance';
import { arrange } from './verbs/arrange';
import { between } from './verbs/between';
import { check } from './verbs/check';
import { combine } from './verbs/combine';
import { convert } from './verbs/convert';
import { join } from './verbs/join';
import { lineToOutline } from './verbs/line-to-outline';
import { measure } from './verbs/measure';
import { offset } from './verbs/offset';
import { fair } from './verbs/fair';
import { simplify } from './verbs/simplify';
import { toolpath } from './verbs/toolpath';
import { trace } from './verbs/trace';

const VERBS: Readonly<Record<string, Verb>> = {
	trace,
	offset,
	combine,
	allowance,
	between,
	'line-to-outline': lineToOutline,
	join,
	simplify,
	fair,
	measure,
	check,
	convert,
	toolpath,
	arrange
};

function overview(): string {
	const lines = Object.values(VERBS).map((verb) => `  ${verb.usage}\n      ${verb.meaning}`);
	return `even-thread VERB …\n\n${lines.join('\n')}\n\n--json prints one JSON object; --help after a verb tells its options.`;
}

/** Runs one command and returns the exit code: 0 done, 1 could not be done, 2 wrong usage. */
export async function main(args: readonly string[]): Promise<number> {
	const [name, ...rest] = args;
	if (name === undefined || name === '--help' || name === '-h' || name === 'help') {
		process.stdout.write(overview() + '\n');
		return name === undefined ? 2 : 0;
	}
	const verb = Object.hasOwn(VERBS, name) ? VERBS[name] : undefined;
	if (!verb) {
		process.stderr.write(`There is no verb "${name}". There are: ${Object.keys(VERBS).join(', ')}.\n`);
		return 2;
	}
	if (rest.includes('--help') || rest.includes('-h')) {
		process.stdout.write(`even-thread ${verb.usage}\n${verb.meaning}\n\n${verb.help.join('\n')}\n`);
		return 0;
	}
	try {
		const words = readWords(rest, verb.options);
		const { facts, text, exit } = await verb.run(words);
		process.stdout.write((words.flag('json') ? JSON.stringify(facts) : text) + '\n');
		return exit ?? 0;
	} catch (error) {
		if (error instanceof UsageError) {
			process.stderr.write(error.message + '\n');
			return 2;
		}
		if (error instanceof CoreError) {
			process.stderr.write(error.message + '\n');
			return 1;
		}
		process.stderr.write(`Something unexpected went wrong: ${(error as Error).message}\n`);
		return 1;
	}
}
