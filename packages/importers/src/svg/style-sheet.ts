import * as css from 'css-tree';
import type { Warnings } from '../warnings.ts';

/** What a rule looks at of an element. */
export interface StyledElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
}

interface Compound {
  readonly type: string | null;
  readonly id: string | null;
  readonly classes: readonly string[];
  /** How it is tied to the compound at its left. */
  readonly isChild: boolean;
}

interface Rule {
  /** From right to left. */
  readonly compounds: readonly Compound[];
  /** Selectors Level 4, 17: ids, classes, types as one number; then the order of the file. */
  readonly specificity: number;
  readonly declarations: readonly Declaration[];
}

interface Declaration {
  readonly property: string;
  readonly value: string;
  readonly isImportant: boolean;
}

/** The rules of a file's `style` elements. */
export class StyleSheet {
  readonly #rules = new Map<string, Rule[]>();
  #count = 0;

  /** Rules by element, class, id, descendant and child are taken; what else there is, is said. */
  add(text: string, warnings: Warnings, line: number): void {
    const unread = (what: string): void => warnings.add('not-supported', what, line);
    let root: css.CssNode;
    try {
      root = css.parse(text, { onParseError: () => unread('a style rule that can’t be read is left out') });
    } catch {
      unread('a style sheet that can’t be read is left out');
      return;
    }
    if (root.type !== 'StyleSheet') return;
    root.children.forEach((node) => {
      if (node.type === 'Atrule') unread(`@${node.name.slice(0, 30)} in a style sheet is not applied`);
      if (node.type !== 'Rule' || node.prelude.type !== 'SelectorList') return;
      const declarations = declarationsOf(node.block);
      node.prelude.children.forEach((selector) => {
        const compounds = selector.type === 'Selector' ? compoundsOf(selector) : null;
        if (!compounds) unread('a style rule by anything but element, class, id, descendant or child is not applied');
        else this.#keep(compounds, declarations);
      });
    });
  }

  get isEmpty(): boolean {
    return this.#count === 0;
  }

  /** What the rules say of an element, weaker first. @param chain the element and those around it, outermost first */
  declarationsFor(chain: readonly StyledElement[]): readonly Declaration[] {
    const element = chain.at(-1)!;
    const { id, class: classes } = element.attributes;
    const keys = ['*', element.name];
    if (id !== undefined) keys.push(`#${id}`);
    if (classes !== undefined) for (const name of classes.split(/\s+/)) keys.push(`.${name}`);
    const found = keys.flatMap((key) => this.#rules.get(key) ?? []).filter((rule) => matches(rule.compounds, chain));
    return found.sort((a, b) => a.specificity - b.specificity).flatMap(({ declarations }) => declarations);
  }

  #keep(compounds: readonly Compound[], declarations: readonly Declaration[]): void {
    const [last] = compounds;
    if (!last || declarations.length === 0) return;
    const count = (of: (compound: Compound) => number): number => compounds.reduce((sum, one) => sum + of(one), 0);
    const ids = count(({ id }) => (id === null ? 0 : 1));
    const classes = count((one) => one.classes.length);
    const types = count(({ type }) => (type === null ? 0 : 1));
    const specificity = ((ids * 256 + classes) * 256 + types) * 1e6 + this.#count++;
    const key =
      last.id !== null ? `#${last.id}` : last.classes[0] !== undefined ? `.${last.classes[0]}` : (last.type ?? '*');
    const rule = { compounds, specificity, declarations };
    const list = this.#rules.get(key);
    if (list) list.push(rule);
    else this.#rules.set(key, [rule]);
  }
}

function declarationsOf(block: css.Block): Declaration[] {
  const declarations: Declaration[] = [];
  block.children.forEach((node) => {
    if (node.type !== 'Declaration') return;
    declarations.push({
      property: node.property.toLowerCase(),
      value: css.generate(node.value),
      isImportant: node.important !== false,
    });
  });
  return declarations;
}

/** @returns the compounds from right to left; null if the selector has a part that isn't known here */
function compoundsOf(selector: css.Selector): Compound[] | null {
  const compounds: { type: string | null; id: string | null; classes: string[]; isChild: boolean }[] = [];
  const begin = (isChild: boolean): void => {
    compounds.unshift({ type: null, id: null, classes: [], isChild });
  };
  begin(false);
  let unknown = 0;
  selector.children.forEach((node) => {
    const current = compounds[0]!;
    if (node.type === 'TypeSelector') current.type = node.name === '*' ? null : node.name;
    else if (node.type === 'ClassSelector') current.classes.push(node.name);
    else if (node.type === 'IdSelector') current.id = node.name;
    else if (node.type === 'Combinator' && (node.name === ' ' || node.name === '>')) begin(node.name === '>');
    else unknown++;
  });
  return unknown > 0 ? null : compounds;
}

function matches(compounds: readonly Compound[], chain: readonly StyledElement[]): boolean {
  const from = (index: number, at: number): boolean => {
    const compound = compounds[index]!;
    if (at < 0 || !fits(compound, chain[at]!)) return false;
    if (index + 1 === compounds.length) return true;
    if (compound.isChild) return from(index + 1, at - 1);
    for (let up = at - 1; up >= 0; up--) if (from(index + 1, up)) return true;
    return false;
  };
  return from(0, chain.length - 1);
}

function fits({ type, id, classes }: Compound, { name, attributes }: StyledElement): boolean {
  if (type !== null && type !== name) return false;
  if (id !== null && attributes.id !== id) return false;
  if (classes.length === 0) return true;
  const own = (attributes.class ?? '').split(/\s+/);
  return classes.every((wanted) => own.includes(wanted));
}
