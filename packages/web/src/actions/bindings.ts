import { useMemo } from 'react';
import {
  byInput,
  lastingActs,
  partsOf,
  type ActId,
  type Bindings,
  type Input,
  type LastingAct,
} from '@gull-pane/core/intent/inputs';
import { profileOf, type ProfileId } from '@gull-pane/core/intent/profiles';
import { usePreferences } from '../store/preferences-store';
import { actionById, allActions } from './all-actions';

/** Names of the movements that last as long as their input. */
export const lastingNames: Readonly<Record<LastingAct, { readonly name: string; readonly sentence: string }>> = {
  pan: { name: 'Pan', sentence: 'The drawing follows the hand.' },
  zoom: {
    name: 'Zoom',
    sentence: 'By the wheel about the cursor; by a drag up closer, down farther, about where it began.',
  },
  twist: { name: 'Twist', sentence: 'Turns the drawing about the middle of the pane.' },
  orbit: { name: 'Orbit', sentence: 'Turns a model about what is grabbed; plans and locked views are panned.' },
  lens: { name: 'Borrow the lens', sentence: 'While the key is down; a click goes where it looks.' },
};

export const nameOfAct = (act: ActId): string =>
  actionById.get(act)?.name ?? (lastingNames as Partial<Record<string, { name: string }>>)[act]?.name ?? act;

/** What each act is done by in a profile: keys from the actions, hands from the profile. */
export function bindingsOfProfile(id: ProfileId): Bindings {
  const { bindings } = profileOf(id);
  const acts = [...lastingActs, ...allActions.map((action) => action.id)];
  return Object.fromEntries(acts.map((act) => [act, [...(actionById.get(act)?.keys ?? []), ...(bindings[act] ?? [])]]));
}

interface Habits {
  readonly profile: ProfileId | 'own';
  readonly own: { readonly base: ProfileId; readonly changes: Bindings };
}

/** The bindings in use. */
export function bindingsOf({ profile, own }: Habits): Bindings {
  return profile === 'own' ? { ...bindingsOfProfile(own.base), ...own.changes } : bindingsOfProfile(profile);
}

let known: { readonly habits: Habits; readonly bindings: Bindings; readonly acts: ReadonlyMap<Input, ActId> } | null =
  null;

/** The bindings in use, both ways round; made anew only when they change. */
export function bindingsInUse(): { readonly bindings: Bindings; readonly acts: ReadonlyMap<Input, ActId> } {
  const { profile, own } = usePreferences.getState();
  if (known?.habits.profile !== profile || known.habits.own !== own) {
    const bindings = bindingsOf({ profile, own });
    known = { habits: { profile, own }, bindings, acts: byInput(bindings) };
  }
  return known;
}

export function useBindings(): Bindings {
  const profile = usePreferences((state) => state.profile);
  const own = usePreferences((state) => state.own);
  return useMemo(() => bindingsOf({ profile, own }), [profile, own]);
}

/** The first mere key of an act: the one that is shown. */
export const shownKey = (inputs: readonly Input[]): string | undefined =>
  inputs.find((input) => partsOf(input).words === '');
