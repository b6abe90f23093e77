import { expect, it } from 'vitest';
import { presenterKeyOf } from './presenter-keys';

const press = (key: string, held: { readonly ctrlKey?: boolean } = {}) =>
  presenterKeyOf({ key, ctrlKey: false, altKey: false, metaKey: false, ...held });

it('understands what clickers send, and the keys of those who have none', () => {
  expect(['PageDown', 'PageUp', '.', 'F5', 'Escape'].map((key) => press(key))).toEqual([
    'next',
    'previous',
    'dark',
    'leave',
    'leave',
  ]);
  expect([' ', 'B', 'Home', 'End', 'c'].map((key) => press(key))).toEqual(['go', 'dark', 'first', 'last', 'caption']);
});

it('leaves the browser’s own keys to it', () => {
  expect(press('ArrowRight', { ctrlKey: true })).toBeNull();
  expect(press('Tab')).toBeNull();
  expect(press('F11')).toBeNull();
});
