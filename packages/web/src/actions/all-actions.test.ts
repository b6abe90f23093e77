import { actGroups } from '../help/act-rows';
import { expect, it } from 'vitest';
import { handProfiles } from '@gull-pane/core/intent/profiles';
import { allActions } from './all-actions';
import { bindingsOfProfile } from './bindings';
import { inputOfKey } from './keys';

it('no two acts share a key in any profile', () => {
  for (const { id } of handProfiles) {
    const owners = new Map<string, string>();
    for (const [act, inputs] of Object.entries(bindingsOfProfile(id))) {
      for (const input of inputs) {
        expect(owners.get(input), `${input} in ${id}: ${act}`).toBeUndefined();
        owners.set(input, act);
      }
    }
  }
});

it('every key is written as a press of it is understood', () => {
  for (const { id, keys } of allActions) {
    for (const key of keys) {
      const isShifted = key.startsWith('Shift+') && key !== 'Shift+';
      const bare = isShifted ? key.slice('Shift+'.length) : key;
      const press = { key: bare, shiftKey: isShifted, ctrlKey: false, altKey: false, metaKey: false };
      expect(inputOfKey(press), id).toBe(key);
    }
  }
});

it('every action has a name and a sentence of its own', () => {
  expect(new Set(allActions.map(({ name }) => name)).size).toBe(allActions.length);
  for (const { sentence } of allActions) expect(sentence).toMatch(/^[A-Z].*\.$/);
});

it('every act is told in the sheet of keys, once', () => {
  const told = actGroups.flatMap(({ rows }) => rows.map(({ id }) => id));
  expect(allActions.map(({ id }) => id).filter((id) => !told.includes(id))).toEqual([]);
  expect(told.filter((id, index) => told.indexOf(id) !== index)).toEqual([]);
});
