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
  /** Keys that the ancestors of the styled element must have. */
  readonly needs: readonly string[];
  /** Selectors Level 4, 17: ids, classes, types as one number; then the order of the file. */
  readonly specificity: number;
  readonly declarations: readonly Declaration[];
}

interface Declaration {
  readonly property: string;
  readonly value: string;
  readonly isImportant: boolean;
}

/** Of more rules for one kind of element it is looked first whether all that one asks for is there at all. */
const FEW = 8;

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

  /**
   * What the rules say of an element, weaker first.
   * @param around the elements that it lies in, outermost first
   */
  declarationsFor(element: StyledElement, around: readonly StyledElement[]): readonly Declaration[] {
    let keysAround: ReadonlySet<string> | null = null;
    const mayFit = ({ needs }: Rule, isOneOfMany: boolean): boolean => {
      if (needs.length === 0 || !isOneOfMany) return true;
      keysAround ??= new Set(around.flatMap(keysOf));
      return needs.every((need) => keysAround!.has(need));
    };
    const found: Rule[] = [];
    for (const key of keysOf(element)) {
      const rules = this.#rules.get(key) ?? [];
      for (const rule of rules)
        if (mayFit(rule, rules.length > FEW) && matches(rule.compounds, element, around)) found.push(rule);
    }
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
    const key = keyOf(last);
    const needs = compounds.slice(1).map(keyOf);
    const rule = { compounds, needs, specificity, declarations };
    const list = this.#rules.get(key);
    if (list) list.push(rule);
    else this.#rules.set(key, [rule]);
  }
}

/** What rules are found by: the most telling that a compound asks for. */
const keyOf = ({ id, classes, type }: Compound): string =>
  id !== null ? `#${id}` : classes[0] !== undefined ? `.${classes[0]}` : (type ?? '*');

/** Everything that a compound which fits an element can be found by. */
function keysOf({ name, attributes: { id, class: classes } }: StyledElement): string[] {
  const keys = ['*', name];
  if (id !== undefined) keys.push(`#${id}`);
  if (classes !== undefined) for (const one of classes.split(/\s+/)) keys.push(`.${one}`);
  return keys;
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

function matches(compounds: readonly Compound[], element: StyledElement, around: readonly StyledElement[]): boolean {
  if (!fits(compounds[0]!, element)) return false;
  // what is tied closely is looked at first: most rules fail there
  let at = around.length;
  for (let index = 0; index + 1 < compounds.length; index++) {
    if (!compounds[index]!.isChild) return isBelow(compounds, index + 1, around, at);
    at--;
    if (at < 0 || !fits(compounds[index + 1]!, around[at]!)) return false;
  }
  return true;
}

/**
 * Whether an element above `at` fits what is left of a rule: from its left end on it is found out which elements each part
 * may stand for, so that the time grows with the depth of groups times the length of the rule.
 */
function isBelow(compounds: readonly Compound[], first: number, around: readonly StyledElement[], at: number): boolean {
  let fitsAt = new Uint8Array(at);
  for (let index = compounds.length - 1; index >= first; index--) {
    const compound = compounds[index]!;
    const next = new Uint8Array(at);
    let isAnyAbove = index === compounds.length - 1;
    for (let place = 0; place < at; place++) {
      const isTied = compound.isChild ? place > 0 && fitsAt[place - 1] === 1 : isAnyAbove;
      if ((index === compounds.length - 1 || isTied) && fits(compound, around[place]!)) next[place] = 1;
      isAnyAbove ||= fitsAt[place] === 1;
    }
    fitsAt = next;
  }
  return fitsAt.includes(1);
}

function fits({ type, id, classes }: Compound, { name, attributes }: StyledElement): boolean {
  if (type !== null && type !== name) return false;
  if (id !== null && attributes.id !== id) return false;
  if (classes.length === 0) return true;
  const { class: own } = attributes;
  return own !== undefined && classes.every((wanted) => hasClass(own, wanted));
}

/** @param own an attribute: names with white space between them */
function hasClass(own: string, wanted: string): boolean {
  for (let at = own.indexOf(wanted); at >= 0; at = own.indexOf(wanted, at + 1)) {
    const [before, after] = [at - 1, at + wanted.length];
    if ((at === 0 || isBlank(own.charCodeAt(before))) && (after === own.length || isBlank(own.charCodeAt(after))))
      return true;
  }
  return false;
}

const isBlank = (code: number): boolean => code === 0x20 || (code >= 0x9 && code <= 0xd);
