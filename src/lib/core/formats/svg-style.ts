/** Styles of an SVG: presentation attributes, style sheets by importance and specificity, style attributes (CSS Cascading 4). */
import { compile } from 'css-select';
import type { Element } from 'domhandler';
import postcss from 'postcss';
import parseSelectors from 'postcss-selector-parser';
import { compare, selectorSpecificity, type Specificity } from '@csstools/selector-specificity';
import type { FileFillRule } from './imported';

/** The properties that mean something for lines; those of the second list go to the parts of an element too. */
const OWN = [
	'display',
	'transform',
	'transform-origin',
	'transform-box',
	'clip-path',
	'mask',
	'width',
	'height',
	'x',
	'y',
	'cx',
	'cy',
	'r',
	'rx',
	'ry',
	'd'
] as const;
const INHERITED = [
	'fill',
	'stroke',
	'stroke-width',
	'stroke-dasharray',
	'stroke-linecap',
	'fill-rule',
	'visibility',
	'marker-start',
	'marker-mid',
	'marker-end',
	'font-size',
	'color'
] as const;
/** Set by CSS as well, but read from attributes by whoever draws the shape. */
const NOT_PRESENTATION: readonly string[] = ['width', 'height', 'x', 'y', 'cx', 'cy', 'r', 'rx', 'ry', 'd'];

export type Property = (typeof OWN)[number] | (typeof INHERITED)[number];
export type Computed = { readonly [P in Property]?: string };

/** What holds where nothing is said. */
export const INITIAL: Computed = {
	fill: '#000000',
	stroke: 'none',
	'stroke-width': '1',
	'fill-rule': 'nonzero',
	visibility: 'visible'
};

interface Rule {
	readonly fits: (element: Element) => boolean;
	readonly specificity: Specificity;
	readonly declarations: readonly Declaration[];
}
interface Declaration {
	readonly property: string;
	readonly value: string;
	readonly important: boolean;
}

const KNOWN = new Set<string>([...OWN, ...INHERITED, 'marker']);

/** The style sheets of a drawing, in their order. */
export class StyleSheets {
	private readonly rules: Rule[] = [];

	/** Adds a sheet. @returns false where it cannot be read. */
	add(css: string): boolean {
		let sheet;
		try {
			sheet = postcss.parse(css);
		} catch {
			return false;
		}
		sheet.walkRules((rule) => {
			if (!isForScreens(rule.parent)) return;
			const declarations: Declaration[] = [];
			rule.each((node) => {
				if (node.type === 'decl' && KNOWN.has(node.prop.toLowerCase()))
					declarations.push({
						property: node.prop.toLowerCase(),
						value: node.value.trim(),
						important: node.important === true
					});
			});
			if (declarations.length === 0) return;
			for (const selector of rule.selectors) {
				try {
					const [node] = parseSelectors().astSync(selector).nodes;
					this.rules.push({
						fits: compile(selector, { xmlMode: true }) as (element: Element) => boolean,
						specificity: selectorSpecificity(node),
						declarations
					});
				} catch {
					// A selector that is none matches nothing (CSS Selectors 4, 3.9).
				}
			}
		});
		// Of the same specificity the later one wins: the sort keeps their order.
		this.rules.sort((a, b) => compare(a.specificity, b.specificity));
		return true;
	}

	/** The style of an element whose parent has another. */
	of(element: Element, parent: Computed): Computed {
		const normal: Record<string, string> = {};
		const important: Record<string, string> = {};
		for (const name of KNOWN) {
			const value = element.attribs[name];
			if (value !== undefined && !NOT_PRESENTATION.includes(name)) normal[name] = value.trim();
		}
		const say = ({ property, value, important: isImportant }: Declaration) => {
			const to = isImportant ? important : normal;
			if (property === 'marker') for (const end of ['start', 'mid', 'end']) to[`marker-${end}`] = value;
			else to[property] = value;
		};
		for (const rule of this.rules) if (rule.fits(element)) rule.declarations.forEach(say);
		for (const declaration of inline(element.attribs.style)) say(declaration);
		const said = { ...normal, ...important };
		const out: Record<string, string> = {};
		for (const name of INHERITED) {
			const value = said[name];
			const taken = value === undefined || value === 'inherit' || value === 'unset' ? parent[name] : value;
			const now = taken === 'initial' ? INITIAL[name] : taken;
			if (now !== undefined) out[name] = now;
		}
		for (const name of OWN) if (said[name] !== undefined) out[name] = said[name];
		return out as Computed;
	}
}

/** Whether a rule stands where it holds on a screen: not under a condition for something else. */
function isForScreens(parent: unknown): boolean {
	let at = parent as { type?: string; name?: string; params?: string; parent?: unknown } | undefined;
	for (; at && at.type !== 'root'; at = at.parent as typeof at) {
		if (at.type !== 'atrule') continue;
		if (at.name === 'media' ? !/^\s*(all|screen)\s*$/i.test(at.params ?? '') : at.name !== 'layer')
			return false;
	}
	return true;
}

/** The declarations of a style attribute. */
function inline(style: string | undefined): Declaration[] {
	if (!style) return [];
	try {
		const list: Declaration[] = [];
		postcss.parse(style).each((node) => {
			if (node.type === 'decl' && KNOWN.has(node.prop.toLowerCase()))
				list.push({
					property: node.prop.toLowerCase(),
					value: node.value.trim(),
					important: node.important === true
				});
		});
		return list;
	} catch {
		return [];
	}
}

export const fillRuleOf = (style: Computed): FileFillRule =>
	style['fill-rule'] === 'evenodd' ? 'evenodd' : 'nonzero';

/** A paint as a CSS colour; undefined where nothing is painted. */
export function colourOf(paint: string | undefined, style: Computed): string | undefined {
	if (!paint || paint === 'none' || paint === 'transparent') return undefined;
	if (/^currentcolor$/i.test(paint)) return style.color ?? '#000000';
	return paint;
}

/** The id that a paint, a clip or a mask refers to. */
export const referredId = (value: string | undefined): string | undefined =>
	/^url\(\s*['"]?#([^'")]+)['"]?\s*\)/.exec(value ?? '')?.[1];
