/** Formulas typed by a person: read once, told where they are wrong, reckoned with names. Nothing of a text is ever run. */
import jsep from 'jsep';
import { CoreError } from './errors';
import { MM_PER_WORD } from './units';

/** What a formula comes to, given the values of its names. */
export interface Formula {
	/** The names that it uses, without constants. */
	readonly names: readonly string[];
	at(values: Readonly<Record<string, number>>): number;
}

const CONSTANTS: Readonly<Record<string, number>> = { pi: Math.PI, π: Math.PI, tau: 2 * Math.PI, e: Math.E };

type Maths = (...values: number[]) => number;
/** Functions by name, and how many values they take at least and at most. */
const FUNCTIONS: Readonly<Record<string, readonly [Maths, number, number]>> = {
	sqrt: [Math.sqrt, 1, 1],
	cbrt: [Math.cbrt, 1, 1],
	abs: [Math.abs, 1, 1],
	exp: [Math.exp, 1, 1],
	ln: [Math.log, 1, 1],
	log: [Math.log10, 1, 1],
	sinh: [Math.sinh, 1, 1],
	cosh: [Math.cosh, 1, 1],
	tanh: [Math.tanh, 1, 1],
	floor: [Math.floor, 1, 1],
	ceil: [Math.ceil, 1, 1],
	round: [Math.round, 1, 1],
	sign: [Math.sign, 1, 1],
	min: [Math.min, 1, 20],
	max: [Math.max, 1, 20],
	hypot: [Math.hypot, 1, 20],
	mod: [(a, b) => a - b * Math.floor(a / b), 2, 2]
};
/** Functions of angles, and those that give one. */
const OF_ANGLES: Readonly<Record<string, Maths>> = { sin: Math.sin, cos: Math.cos, tan: Math.tan };
const GIVING_ANGLES: Readonly<Record<string, readonly [Maths, number]>> = {
	asin: [Math.asin, 1],
	acos: [Math.acos, 1],
	atan: [Math.atan, 1],
	atan2: [Math.atan2, 2]
};

/** All words that mean something already. */
export const isReserved = (name: string): boolean =>
	[CONSTANTS, FUNCTIONS, OF_ANGLES, GIVING_ANGLES].some((table) => Object.hasOwn(table, name));

const MOST_LENGTH = 400;
const MOST_DEPTH = 60;

jsep.addBinaryOp('^', 11, true);
jsep.removeAllLiterals();
for (const word of [
	'||',
	'&&',
	'|',
	'&',
	'==',
	'!=',
	'===',
	'!==',
	'<',
	'>',
	'<=',
	'>=',
	'<<',
	'>>',
	'>>>',
	'??'
])
	jsep.removeBinaryOp(word);
for (const word of ['!', '~', 'typeof']) jsep.removeUnaryOp(word);

type Reckon = (values: Readonly<Record<string, number>>) => number;

/**
 * Reads a formula. Lengths may carry a unit ("5 mm", "3/8 in") and come to mm; "2 pi r" needs its signs: 2 * pi * r.
 * @param degrees whether angles are degrees; radians else.
 * @param known names that may stand in it; any where nothing is said.
 * @throws CoreError `bad-formula` with the place.
 */
export function readFormula(
	text: string,
	{ degrees = false, known }: { degrees?: boolean; known?: ReadonlySet<string> } = {}
): Formula {
	if (!text.trim()) throw new CoreError('bad-formula', 'A formula is missing.');
	if (text.length > MOST_LENGTH)
		throw new CoreError('bad-formula', `A formula may be ${MOST_LENGTH} letters long.`);
	const names = new Set<string>();
	const turn = degrees ? Math.PI / 180 : 1;

	function read(node: jsep.Expression, depth: number): Reckon {
		if (depth > MOST_DEPTH) throw new CoreError('bad-formula', 'This formula is nested too deeply.');
		switch (node.type) {
			case 'Literal': {
				const { value, raw } = node as jsep.Literal;
				if (typeof value !== 'number') throw notUnderstood(raw);
				return () => value;
			}
			case 'Identifier': {
				const { name } = node as jsep.Identifier;
				if (Object.hasOwn(CONSTANTS, name) && !known?.has(name)) {
					const value = CONSTANTS[name];
					return () => value;
				}
				if (isReserved(name)) throw new CoreError('bad-formula', `"${name}" needs its value in brackets.`);
				if (known && !known.has(name))
					throw new CoreError('bad-formula', `"${name}" is no name that is known here.`);
				names.add(name);
				return (values) => (Object.hasOwn(values, name) ? values[name] : NaN);
			}
			case 'UnaryExpression': {
				const { operator, argument } = node as jsep.UnaryExpression;
				const value = read(argument, depth + 1);
				return operator === '-' ? (v) => -value(v) : value;
			}
			case 'BinaryExpression': {
				const { operator, left, right } = node as jsep.BinaryExpression;
				const [a, b] = [read(left, depth + 1), read(right, depth + 1)];
				switch (operator) {
					case '+':
						return (v) => a(v) + b(v);
					case '-':
						return (v) => a(v) - b(v);
					case '*':
						return (v) => a(v) * b(v);
					case '/':
						return (v) => a(v) / b(v);
					case '%':
						return (v) => a(v) % b(v);
					case '^':
					case '**':
						return (v) => a(v) ** b(v);
				}
				throw notUnderstood(operator);
			}
			case 'CallExpression': {
				const { callee, arguments: given } = node as jsep.CallExpression;
				if (callee.type !== 'Identifier') throw notUnderstood('(');
				return called(
					(callee as jsep.Identifier).name,
					given.map((one) => read(one, depth + 1))
				);
			}
			case 'Compound':
				throw new CoreError('bad-formula', 'Between two values a sign is missing: + - * / or ^.');
		}
		throw new CoreError('bad-formula', 'This is no formula.');
	}

	function called(name: string, given: readonly Reckon[]): Reckon {
		const counted = (least: number, most: number) => {
			if (given.length < least || given.length > most)
				throw new CoreError(
					'bad-formula',
					`"${name}" takes ${least === most ? least : `${least} or more`} ${most === 1 ? 'value' : 'values'}.`
				);
		};
		if (Object.hasOwn(OF_ANGLES, name)) {
			counted(1, 1);
			const [work, [a]] = [OF_ANGLES[name], given];
			return (v) => work(a(v) * turn);
		}
		if (Object.hasOwn(GIVING_ANGLES, name)) {
			const [work, count] = GIVING_ANGLES[name];
			counted(count, count);
			return (v) => work(...given.map((one) => one(v))) / turn;
		}
		if (Object.hasOwn(FUNCTIONS, name)) {
			const [work, least, most] = FUNCTIONS[name];
			counted(least, most);
			return (v) => work(...given.map((one) => one(v)));
		}
		throw new CoreError('bad-formula', `"${name}" is no function that is known.`);
	}

	let tree: jsep.Expression;
	try {
		tree = jsep(withSigns(withUnits(text)));
	} catch (error) {
		const at = (error as { index?: number }).index;
		throw new CoreError(
			'bad-formula',
			at !== undefined && at < text.length
				? `This formula is not understood at "${text.slice(at, at + 12)}".`
				: 'This formula ends too early.'
		);
	}
	const at = read(tree, 0);
	return { names: [...names], at };
}

const notUnderstood = (word: string) =>
	new CoreError('bad-formula', `"${word}" is not understood in a formula.`);

/** A sign before a power belongs to the whole power: -x^2 is -(x^2). */
const withSigns = (text: string): string =>
	text
		.replace(/(^|[(,])\s*-/g, '$10-')
		.replace(/([*/+-])\s*-/g, (_, sign: string) => (sign === '/' ? '/(0-1)/' : `${sign}(0-1)*`));

/** Units become factors, so that lengths come to mm. */
function withUnits(text: string): string {
	return text
		.replace(
			/(\d)\s*(mm|cm|in|inch|inches|ft|"|″)(?![a-zA-Z_0-9])/g,
			(_, digit: string, unit: string) => `${digit}*${MM_PER_WORD[unit]}`
		)
		.replace(/[−–]/g, '-')
		.replace(/[×·]/g, '*')
		.replace(/÷/g, '/')
		.replace(/(\d),(\d)/g, (all, a: string, b: string) => (/[(]/.test(text) ? all : `${a}.${b}`));
}
