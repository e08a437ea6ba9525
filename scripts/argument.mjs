// What is typed behind a script's name: `--seed 3`. A number where the fallback is one.
export function argument(name, fallback) {
	const i = process.argv.indexOf(name);
	if (i < 0) return fallback;
	const value = process.argv[i + 1];
	return typeof fallback === 'string' ? value : Number(value);
}
