// Finds what people read in a source file: words between tags, in attributes, in strings that are said.
import { parse } from 'svelte/compiler';
import { parseAst } from 'vite';

/**
 * A text and where it stands.
 * `text` has {0}, {1} … where a value comes in; `values` are the places of those values in the code.
 * `kind` says how it is written there: between tags, in a quoted attribute, as a string of the script.
 * @typedef {{ start: number, end: number, text: string, values: [number, number][], kind: 'between' | 'attribute' | 'script' }} Found
 */

/** Attributes and properties whose value is always read by people. */
const SAID = new Set(
	`aria-label aria-description aria-roledescription placeholder title label line word words says why sentence on off suffix keepWord
	dropWord hint more before after mistakes tells prepared told name text`.split(/\s+/)
);
/** Attributes whose value never is. */
const UNSAID =
	/^(class|style|id|d|viewBox|transform|href|src|type|role|for|data-.*|points|fill|stroke.*|accept|rel|tabindex|autocomplete)$/;
/** Strings of machines: selectors, paths, lengths, fonts, names with dots or slashes. */
const OF_MACHINES =
	/^[.#[]|^(M|m)-?\d|\d(px|fr|vw|%|ms)\b|^\w+\/\w|^\w+(-\w+)+$|[{}<>]|\w=|;(?!\s)|^rgb|^\/|^[a-z]+:[a-z]|^@|^\.?\w+\.\w+$/;

const hasWords = (text) => /\p{L}{2}/u.test(text.replace(/\{\d+\}/g, ''));
/** What stands where people read it, unless it is a machine's. */
const isWord = (text) => hasWords(text) && !OF_MACHINES.test(text.replace(/\{\d+\}/g, ''));
/** Reads like something said: more than one word, or one that begins large and goes on small. */
const isSentence = (text) =>
	isWord(text) && (/\p{L}[\p{L}’',.:;!?…)]* \S/u.test(text) || /^\p{Lu}\p{Ll}+[.:…]?$/u.test(text));
const plain = (text) => text.replace(/\s+/g, ' ').trim();

/** The tree of a source file, of either kind. */
export const parsed = (code, file) =>
	file.endsWith('.svelte') ? parse(code, { modern: true, filename: file }) : parseAst(code, { lang: 'ts' });

/** @returns {Found[]} in the order of the file; texts within values of others come after those. */
export function findTexts(tree) {
	const found = [];
	if (tree.type === 'Root') {
		for (const script of [tree.module, tree.instance]) if (script) inScript(script.content, found);
		inFragment(tree.fragment, found);
	} else inScript(tree, found);
	return found.sort((a, b) => a.start - b.start || b.end - a.end);
}

/** Words and values that follow each other between tags are one text. */
function inFragment(fragment, found) {
	let row = [];
	const end = () => {
		while (row.length && (row.at(-1).type !== 'Text' ? !hasWords(textOf(row)) : !row.at(-1).data.trim()))
			row.pop();
		while (row.length && row[0].type === 'Text' && !row[0].data.trim()) row.shift();
		const text = plain(textOf(row));
		if (hasWords(text)) {
			const [first, last] = [row[0], row.at(-1)];
			const lead = first.type === 'Text' ? first.raw.length - first.raw.trimStart().length : 0;
			const trail = last.type === 'Text' ? last.raw.length - last.raw.trimEnd().length : 0;
			found.push({
				start: first.start + lead,
				end: last.end - trail,
				text,
				values: row.filter(({ type }) => type === 'ExpressionTag').map(({ start, end }) => [start, end]),
				kind: 'between'
			});
		}
		row = [];
	};
	for (const node of fragment.nodes) {
		if (node.type === 'Text' || node.type === 'ExpressionTag') row.push(node);
		else end();
		inNode(node, found);
	}
	end();
}
function textOf(row) {
	let k = 0;
	return row.map((node) => (node.type === 'Text' ? node.data : `{${k++}}`)).join('');
}

function inNode(node, found) {
	for (const attribute of node.attributes ?? []) inAttribute(attribute, found);
	for (const [key, value] of Object.entries(node)) {
		if (key === 'attributes' || !value || typeof value !== 'object') continue;
		if (value.type === 'Fragment') inFragment(value, found);
		else if (key !== 'fragment' && value.type) inScript(value, found);
	}
}

function inAttribute({ type, name, value, ...rest }, found) {
	if (type !== 'Attribute') {
		if (rest.expression) inScript(rest.expression, found);
		return;
	}
	if (value === true || UNSAID.test(name)) return;
	const parts = Array.isArray(value) ? value : [value];
	const text = plain(textOf(parts));
	const isWritten = parts.some((part) => part.type === 'Text');
	if (isWritten && (SAID.has(name) ? isWord(text) : isSentence(text)))
		found.push({
			start: parts[0].start,
			end: parts.at(-1).end,
			text,
			values: parts.filter(({ type }) => type === 'ExpressionTag').map(({ start, end }) => [start, end]),
			kind: 'attribute'
		});
	for (const part of parts) if (part.expression) inScript(part.expression, found, SAID.has(name));
}

/** Types and what only compares are passed over. */
const PASSED =
	/^(TS(?!AsExpression|SatisfiesExpression|NonNullExpression)|Import|Export(All|Named)Declaration$)/;

function inScript(node, found, isSaid = false) {
	if (!node || typeof node.type !== 'string') return;
	if (node.type === 'ExportNamedDeclaration') inScript(node.declaration, found);
	if (PASSED.test(node.type)) return;
	if (node.type === 'Literal' && typeof node.value === 'string') {
		if (isSaid ? isWord(node.value) : isSentence(node.value))
			found.push({ start: node.start, end: node.end, text: node.value, values: [], kind: 'script' });
		return;
	}
	if (node.type === 'TemplateLiteral') {
		const text = node.quasis
			.map(({ value }, k) => value.cooked + (k < node.expressions.length ? `{${k}}` : ''))
			.join('');
		const says = isSaid ? isWord(text) : isSentence(text);
		if (says)
			found.push({
				start: node.start,
				end: node.end,
				text,
				values: node.expressions.map(({ start, end }) => [start, end]),
				kind: 'script'
			});
		// A word that is chosen within a text is a text of its own.
		for (const value of node.expressions) inScript(value, found, says);
		return;
	}
	if (node.type === 'ConditionalExpression') {
		inScript(node.test, found);
		inScript(node.consequent, found, isSaid);
		inScript(node.alternate, found, isSaid);
		return;
	}
	if (node.type === 'BinaryExpression' && /^[=!]==?$/.test(node.operator)) return;
	if (node.type === 'Property' || node.type === 'PropertyDefinition') {
		const key = node.key.name ?? node.key.value;
		if (node.computed) inScript(node.key, found);
		inScript(node.value, found, SAID.has(key));
		return;
	}
	const keepsSaid =
		/^(LogicalExpression|ArrayExpression|TSAsExpression|TSSatisfiesExpression|ArrowFunctionExpression|BinaryExpression)$/;
	for (const [key, value] of Object.entries(node)) {
		if (key === 'test' && node.type === 'SwitchCase') continue;
		for (const child of Array.isArray(value) ? value : [value])
			if (child && typeof child.type === 'string')
				inScript(child, found, isSaid && keepsSaid.test(node.type));
	}
}

/**
 * Strings that the code itself goes by: members of types, quoted keys, constant lists, what is compared. A text that is also one of
 * these is no text, or another language would part the two.
 * @param {Set<string>} codes they are put in here.
 */
export function findCodes(tree, codes) {
	const take = (node) => {
		if (node?.type === 'Literal' && typeof node.value === 'string') codes.add(node.value);
	};
	const visit = (node) => {
		if (!node || typeof node.type !== 'string') return;
		if (node.type === 'TSLiteralType') take(node.literal);
		if (node.type === 'Property' && !node.computed) take(node.key);
		if (node.type === 'BinaryExpression') [node.left, node.right].forEach(take);
		if (node.type === 'SwitchCase') take(node.test);
		if (node.type === 'TSAsExpression' && node.expression.type === 'ArrayExpression')
			node.expression.elements.forEach(take);
		for (const value of Object.values(node))
			for (const child of Array.isArray(value) ? value : [value])
				if (typeof child?.type === 'string') visit(child);
	};
	visit(tree);
}
