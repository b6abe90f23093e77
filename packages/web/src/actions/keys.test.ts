import { expect, it } from 'vitest';
import { actionOfKey, keyCaps } from './keys';
import { viewActions } from './view-actions';

const press = (key: string, more: Partial<KeyboardEvent> = {}) => ({
  key,
  shiftKey: false,
  ctrlKey: false,
  altKey: false,
  metaKey: false,
  ...more,
});

it('finds actions by their keys, whatever the case', () => {
  expect(actionOfKey(viewActions, press('a'))?.id).toBe('fit-all');
  expect(actionOfKey(viewActions, press('A'))?.id).toBe('fit-all');
  expect(actionOfKey(viewActions, press('Backspace'))?.id).toBe('back');
  expect(actionOfKey(viewActions, press('Backspace', { shiftKey: true }))?.id).toBe('forward');
  expect(actionOfKey(viewActions, press('+', { shiftKey: true }))?.id).toBe('closer');
});

it('leaves the browser’s own keys alone', () => {
  expect(actionOfKey(viewActions, press('a', { ctrlKey: true }))).toBeUndefined();
  expect(actionOfKey(viewActions, press('+', { metaKey: true }))).toBeUndefined();
});

it('writes key caps as they stand on a keyboard', () => {
  expect(keyCaps('Shift+Backspace')).toEqual(['Shift', 'Backspace']);
  expect(keyCaps('c')).toEqual(['C']);
  expect(keyCaps('ArrowLeft')).toEqual(['←']);
});

it('gives no key to two actions', () => {
  const keys = viewActions.flatMap((action) => action.keys);
  expect(new Set(keys).size).toBe(keys.length);
});
