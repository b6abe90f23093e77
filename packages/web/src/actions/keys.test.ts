import { expect, it } from 'vitest';
import { clashesOf } from '@gull-pane/core/intent/inputs';
import { profileIds } from '@gull-pane/core/intent/profiles';
import { measureActions } from './collect-actions';
import { railWordsAction } from './home-actions';
import { markActions } from './mark-actions';
import { planeActions } from './plane-actions';
import { actionById, allActions } from './all-actions';
import { bindingsOf, bindingsOfProfile, nameOfAct, shownKey } from './bindings';
import { inputOfKey, keyCaps } from './keys';

const press = (key: string, more: Partial<KeyboardEvent> = {}) => ({
  key,
  shiftKey: false,
  ctrlKey: false,
  altKey: false,
  metaKey: false,
  ...more,
});

it('writes key presses as bindings do, whatever the case', () => {
  expect(inputOfKey(press('a'))).toBe('a');
  expect(inputOfKey(press('A'))).toBe('a');
  expect(inputOfKey(press('Backspace', { shiftKey: true }))).toBe('Shift+Backspace');
  expect(inputOfKey(press('+', { shiftKey: true }))).toBe('Shift++');
});

it('knows a digit with Shift by its key, but not what else a keyboard has there', () => {
  expect(inputOfKey({ ...press('!', { shiftKey: true }), code: 'Digit1' })).toBe('Shift+1');
  expect(inputOfKey({ ...press('"', { shiftKey: true }), code: 'Digit2' })).toBe('Shift+2');
  expect(inputOfKey({ ...press('+', { shiftKey: true }), code: 'Digit1' })).toBe('Shift++');
  expect(inputOfKey({ ...press('/', { shiftKey: true }), code: 'Digit7' })).toBe('Shift+/');
  expect(keyCaps('Shift+1')).toEqual(['Shift', '1']);
});

it('leaves the browser’s own keys alone', () => {
  expect(inputOfKey(press('a', { ctrlKey: true }))).toBeNull();
  expect(inputOfKey(press('+', { metaKey: true }))).toBeNull();
});

it('writes key caps as they stand on a keyboard', () => {
  expect(keyCaps('Shift+Backspace')).toEqual(['Shift', 'Backspace']);
  expect(keyCaps('c')).toEqual(['C']);
  expect(keyCaps('ArrowLeft')).toEqual(['←']);
  expect(keyCaps('Shift+?')).toEqual(['?']);
  expect(keyCaps('Ctrl+drag:wheel')).toEqual(['Ctrl']);
  expect(keyCaps('hold:p')).toEqual(['P']);
});

it('has no clash in any profile that comes with it', () => {
  for (const id of profileIds) expect(clashesOf(bindingsOfProfile(id))).toEqual([]);
});

it('gives every action a key, its own or that of the menu it stands in, and every act a name', () => {
  const inMenus = new Set([...measureActions, ...markActions, ...planeActions, railWordsAction].map(({ id }) => id));
  for (const { id } of allActions)
    if (!inMenus.has(id)) expect(shownKey(bindingsOfProfile('wheel-button')[id] ?? [])).toBeDefined();
  for (const act of Object.keys(bindingsOfProfile('touch'))) expect(nameOfAct(act)).not.toBe(act);
});

it('lets every act of a profile be done: by an action or as a lasting movement', () => {
  const lasting = ['pan', 'zoom', 'twist', 'orbit', 'lens'];
  for (const id of profileIds)
    for (const act of Object.keys(bindingsOfProfile(id)))
      expect(actionById.has(act) || lasting.includes(act)).toBe(true);
});

it('puts own changes over the profile that they began with', () => {
  const bindings = bindingsOf({ profile: 'own', own: { base: 'right-drag', changes: { 'fit-all': ['f'] } } });
  expect(bindings['fit-all']).toEqual(['f']);
  expect(bindings.pan).toEqual(bindingsOfProfile('right-drag').pan);
});
