/**
 * Everything a hand can do, as text, so that bindings are data: keys by their name (`a`, `Shift+Backspace`), `hold:p` (drag
 * while that key is down), `drag:wheel`, `press:wheel`, `double:wheel` and the same for other buttons, `turn` (the
 * wheel), `pinch` and `finger`, `fingers`, `double:finger`; all but the last four may have `Ctrl+`, `Alt+`, `Shift+`
 * before them, in this order.
 */
export type Input = string;

/** What a hand input does: a movement that lasts as long as the input, or an action by its id. */
export type ActId = string;

/** Movements that last as long as their input. */
export const lastingActs = ['pan', 'zoom', 'twist', 'orbit', 'lens'] as const;
export type LastingAct = (typeof lastingActs)[number];
/** Whether an act goes on as long as its input is held. */
export const isLasting = (act: ActId | undefined): act is LastingAct =>
  (lastingActs as readonly (string | undefined)[]).includes(act);

/** What each act is done by. */
export type Bindings = Readonly<Record<ActId, readonly Input[]>>;

/** An input that means two acts: only the first is done. */
export interface Clash {
  readonly input: Input;
  readonly acts: readonly ActId[];
}

/** Bindings the other way round; of two acts with one input the first wins. */
export function byInput(bindings: Bindings): ReadonlyMap<Input, ActId> {
  const found = new Map<Input, ActId>();
  for (const [act, inputs] of Object.entries(bindings))
    for (const input of inputs) if (!found.has(input)) found.set(input, act);
  return found;
}

/** Inputs that are bound to more than one act. */
export function clashesOf(bindings: Bindings): Clash[] {
  const acts = new Map<Input, ActId[]>();
  for (const [act, inputs] of Object.entries(bindings))
    for (const input of new Set(inputs)) acts.set(input, [...(acts.get(input) ?? []), act]);
  return [...acts].filter(([, of]) => of.length > 1).map(([input, of]) => ({ input, acts: of }));
}

const kinds: Readonly<Record<string, string>> = { drag: 'drag', press: 'press', double: 'press twice', hold: 'hold' };
const buttons: Readonly<Record<string, string>> = {
  left: 'left button',
  wheel: 'wheel',
  right: 'right button',
  finger: 'finger',
  back: 'button at the side, rear',
  forward: 'button at the side, front',
};
const whole: Readonly<Record<string, string>> = {
  turn: 'turn the wheel',
  pinch: 'pinch on the trackpad',
  finger: 'drag one finger',
  fingers: 'two fingers',
};

/** An input taken apart: the keys held with it, and the rest in words or, for a key, its name. */
export interface InputParts {
  readonly modifiers: readonly string[];
  /** A key cap; null if the input is no key. */
  readonly key: string | null;
  /** `turn the wheel`, `while held`; empty for a mere key. */
  readonly words: string;
}

/** How an input is told to people. */
export function partsOf(input: Input): InputParts {
  const modifiers: string[] = [];
  let rest = input;
  for (const modifier of ['Ctrl', 'Alt', 'Shift']) {
    if (!rest.startsWith(`${modifier}+`) || rest.length <= modifier.length + 1) continue;
    modifiers.push(modifier);
    rest = rest.slice(modifier.length + 1);
  }
  const told = whole[rest];
  if (told !== undefined) return { modifiers, key: null, words: told };
  const [kind, what] = [rest.slice(0, rest.indexOf(':')), rest.slice(rest.indexOf(':') + 1)];
  if (kind === 'hold' && what !== '') return { modifiers, key: what, words: 'while held' };
  const verb = kinds[kind];
  const button = buttons[what];
  if (verb === undefined || button === undefined) return { modifiers, key: rest, words: '' };
  const words = kind === 'double' ? `press the ${button} twice` : `${verb} the ${button}`;
  return { modifiers, key: null, words };
}
