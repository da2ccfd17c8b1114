/**
 * What style sheets and `style` attributes make of an SVG's elements, as a browser does:
 * presentation attributes are the weakest, then rules by specificity and order, then the
 * element's own style; what is important beats all that is not (CSS Cascading and
 * Inheritance Level 4, 6; SVG 2, 6.6). Parsing is css-tree's, matching css-select's.
 */
import { compile, type Options } from 'css-select';
import { generate, parse, type CssNode, type Selector } from 'css-tree';

/** An element as selectors see it. */
export interface Styled {
  readonly name: string;
  readonly given: Readonly<Record<string, string>>;
  parent: Styled | null;
  readonly children: Styled[];
}

export interface Declaration {
  readonly property: string;
  readonly value: string;
  readonly isImportant: boolean;
}

interface Rule {
  readonly fits: (element: Styled) => boolean;
  /** Ids, classes and the like, types: compared in this order. */
  readonly specificity: number;
  readonly order: number;
  readonly declarations: readonly Declaration[];
}

/** Rules times elements: more than this is no drawing. */
export const MOST_MATCHES = 20_000_000;

const siblingsOf = (element: Styled): Styled[] => element.parent?.children ?? [element];

const options: Options<Styled, Styled> = {
  xmlMode: true,
  cacheResults: false,
  adapter: {
    isTag: (_node): _node is Styled => true,
    getAttributeValue: (element, name) => element.given[name],
    getChildren: (element) => element.children,
    getName: (element) => element.name,
    getParent: (element) => element.parent,
    getSiblings: siblingsOf,
    getText: () => '',
    hasAttrib: (element, name) => element.given[name] !== undefined,
    prevElementSibling: (element) => {
      const siblings = siblingsOf(element);
      return siblings[siblings.indexOf(element) - 1] ?? null;
    },
    removeSubsets: (nodes) => nodes,
    existsOne: (test, nodes) => nodes.some((node) => test(node)),
    findAll: () => [],
    findOne: () => null,
  },
};

/** Weights of a selector's parts (Selectors Level 4, 17): a hundred of one kind do not reach the next. */
function specificityOf(selector: Selector): number {
  let weight = 0;
  const visit = (node: CssNode): void => {
    if (node.type === 'IdSelector') weight += 1e8;
    else if (node.type === 'ClassSelector' || node.type === 'AttributeSelector') weight += 1e4;
    else if (node.type === 'TypeSelector') weight += node.name === '*' ? 0 : 1;
    else if (node.type === 'PseudoClassSelector') {
      const inner = node.children?.toArray() ?? [];
      // :is, :not and :has weigh as what is in them, :where as nothing.
      if (['is', 'not', 'has'].includes(node.name)) {
        const lists = inner.flatMap((child) => (child.type === 'SelectorList' ? child.children.toArray() : [child]));
        weight += Math.max(0, ...lists.map((child) => (child.type === 'Selector' ? specificityOf(child) : 0)));
      } else if (node.name !== 'where') weight += 1e4;
    }
  };
  selector.children.forEach(visit);
  return weight;
}

function declarationsOf(block: CssNode): Declaration[] {
  if (block.type !== 'Block' && block.type !== 'DeclarationList') return [];
  return block.children
    .toArray()
    .flatMap((node): Declaration[] =>
      node.type === 'Declaration'
        ? [{ property: node.property.toLowerCase(), value: generate(node.value).trim(), isImportant: node.important !== false }]
        : [],
    );
}

/** `fill:#fff;stroke:none` in its parts; what cannot be read is left out, as a browser leaves it. */
export function declarationsOfStyle(style: string): Declaration[] {
  return declarationsOf(parse(style, { context: 'declarationList', onParseError: () => undefined }));
}

/** The rules of a style sheet in order; those for other media than a screen, and what is no rule, are left out. */
export function rulesOf(css: string, first = 0): Rule[] {
  const sheet = parse(css, { onParseError: () => undefined });
  const rules: Rule[] = [];
  const visit = (node: CssNode): void => {
    if (node.type === 'Atrule' && node.name === 'media' && node.block) {
      if (/^(all|screen)?$/.test(node.prelude ? generate(node.prelude) : '')) node.block.children.forEach(visit);
      return;
    }
    if (node.type !== 'Rule' || node.prelude.type !== 'SelectorList') return;
    const declarations = declarationsOf(node.block);
    node.prelude.children.forEach((selector) => {
      if (selector.type !== 'Selector') return;
      try {
        const fits = compile<Styled, Styled>(generate(selector), options);
        rules.push({ fits, specificity: specificityOf(selector), order: first + rules.length, declarations });
      } catch {
        // A selector nobody here knows fits nothing.
      }
    });
  };
  if (sheet.type === 'StyleSheet') sheet.children.forEach(visit);
  return rules;
}

/** What an element's properties are, by the cascade; presentation attributes aside. */
export function cascaded(element: Styled, rules: readonly Rule[]): Map<string, string> {
  const winning = new Map<string, { value: string; rank: readonly number[] }>();
  const offer = ({ property, value, isImportant }: Declaration, rank: readonly number[]): void => {
    const whole = [Number(isImportant), ...rank];
    const before = winning.get(property)?.rank;
    const at = before ? whole.findIndex((part, index) => part !== before[index]) : 0;
    if (!before || at < 0 || whole[at]! > before[at]!) winning.set(property, { value, rank: whole });
  };
  for (const { fits, specificity, order, declarations } of rules)
    if (declarations.length > 0 && fits(element))
      declarations.forEach((declaration, place) => offer(declaration, [0, specificity, order, place]));
  if (element.given['style'] !== undefined)
    declarationsOfStyle(element.given['style']).forEach((declaration, place) => offer(declaration, [1, 0, 0, place]));
  return new Map([...winning].map(([property, { value }]) => [property, value]));
}

const ANGLES: Readonly<Record<string, number>> = { deg: 1, rad: 180 / Math.PI, grad: 0.9, turn: 360 };

/**
 * A CSS transform as an SVG's attribute (CSS Transforms Level 1, 13): units are written out,
 * an origin is put around it. undefined for what only a page can do.
 */
export function maybeTransformAttribute(transform: string, origin?: string): string | undefined {
  if (transform === 'none') return '';
  const parts = [...transform.matchAll(/([a-z]+)\(([^()]*)\)/gi)].map(([, name, inside]) => {
    const numbers = inside!
      .split(/[\s,]+/)
      .filter(Boolean)
      .map((text) => {
        const [, digits, unit = ''] = /^([-+]?[\d.]+(?:e[-+]?\d+)?)([a-z%]*)$/i.exec(text) ?? [];
        if (digits === undefined) return Number.NaN;
        const factor = unit === '' || unit === 'px' ? 1 : ANGLES[unit.toLowerCase()];
        return factor === undefined ? Number.NaN : Number(digits) * factor;
      });
    const [first = 0, second] = numbers;
    switch (name!.toLowerCase()) {
      case 'translate':
      case 'scale':
      case 'matrix':
        return `${name!.toLowerCase()}(${numbers.join(' ')})`;
      case 'rotate':
        return `rotate(${first})`;
      case 'translatex':
        return `translate(${first} 0)`;
      case 'translatey':
        return `translate(0 ${first})`;
      case 'scalex':
        return `scale(${first} 1)`;
      case 'scaley':
        return `scale(1 ${first})`;
      case 'skewx':
        return `skewX(${first})`;
      case 'skewy':
        return `skewY(${first})`;
      case 'skew':
        return second === undefined || second === 0 ? `skewX(${first})` : 'NaN';
      default:
        return 'NaN';
    }
  });
  const written = parts.join(' ');
  if (parts.length === 0 || written.includes('NaN')) return undefined;
  const [x, y] = (origin ?? '').split(/\s+/).map((text) => /^([-+]?[\d.]+)(?:px)?$/.exec(text)?.[1]);
  if (origin === undefined || x === undefined || y === undefined) return written;
  return `translate(${x} ${y}) ${written} translate(${-Number(x)} ${-Number(y)})`;
}
