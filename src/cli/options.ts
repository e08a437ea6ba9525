/** Reading the words of a command: files, options, numbers. Wrong usage is told apart from work that fails. */
import { parseArgs } from 'node:util';

/** Wrong usage: exit 2. */
export class UsageError extends Error {}

/** 'list' may be said several times. */
export type OptionKind = 'text' | 'flag' | 'list';

export interface Words {
	readonly files: string[];
	text(name: string): string | undefined;
	flag(name: string): boolean;
	/** What was said of an option, each time. */
	list(name: string): string[];
	/** The number of an option; undefined where it is not given. @throws UsageError for what is no number. */
	number(name: string): number | undefined;
	oneOf<T extends string>(name: string, choices: readonly T[], fallback: T): T;
}

/** Parses the words of a verb. Negative numbers may follow an option. */
export function readWords(args: readonly string[], options: Readonly<Record<string, OptionKind>>): Words {
	// "--distance -3" is a number here, not another option.
	const joined: string[] = [];
	for (let i = 0; i < args.length; i++) {
		const name = args[i].replace(/^--/, '');
		const next = args[i + 1];
		const takes = options[name] === 'text' || options[name] === 'list';
		if (args[i].startsWith('--') && takes && next !== undefined && /^-[\d.]/.test(next)) {
			joined.push(`${args[i]}=${next}`);
			i++;
		} else joined.push(args[i]);
	}
	let parsed;
	try {
		parsed = parseArgs({
			args: joined,
			allowPositionals: true,
			options: Object.fromEntries(
				Object.entries({ ...options, json: 'flag', help: 'flag' } as Record<string, OptionKind>).map(
					([name, kind]) => [
						name,
						{ type: kind === 'flag' ? ('boolean' as const) : ('string' as const), multiple: kind === 'list' }
					]
				)
			)
		});
	} catch (error) {
		throw new UsageError((error as Error).message.split('\n')[0].replace(/\. To specify.*$/, '.'));
	}
	const values = parsed.values as Record<string, string | boolean | string[] | undefined>;
	const text = (name: string) => values[name] as string | undefined;
	return {
		files: parsed.positionals,
		text,
		flag: (name) => values[name] === true,
		list: (name) => (values[name] as string[] | undefined) ?? [],
		number(name) {
			const value = text(name);
			if (value === undefined) return undefined;
			const n = value.trim() === '' ? NaN : Number(value);
			if (!Number.isFinite(n)) throw new UsageError(`--${name} needs a number, not "${value}".`);
			return n;
		},
		oneOf(name, choices, fallback) {
			const value = text(name) ?? fallback;
			if (!(choices as readonly string[]).includes(value)) {
				throw new UsageError(`--${name} is one of ${choices.join(', ')}, not "${value}".`);
			}
			return value as (typeof choices)[number];
		}
	};
}

/** "300x200" as two numbers above 0. */
export function readSize(words: Words, name: string): [number, number] | undefined {
	const text = words.text(name);
	if (text === undefined) return undefined;
	const match = /^([\d.]+)x([\d.]+)$/.exec(text);
	const size = match ? [Number(match[1]), Number(match[2])] : [];
	if (!(size[0] > 0 && size[1] > 0))
		throw new UsageError(`--${name} is written like 300x200, not "${text}".`);
	return [size[0], size[1]];
}
