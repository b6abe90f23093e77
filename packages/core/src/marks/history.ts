import type { Mark } from './mark.ts';

/** What one edit did: each mark before and after; null where there was or is none. */
export interface Edit {
  /** Names it for undo and redo: “move 3 marks”. */
  readonly name: string;
  readonly changes: readonly Change[];
}

interface Change {
  readonly id: string;
  readonly before: Mark | null;
  readonly after: Mark | null;
  /** Its place among the marks before; where it has none it comes to the end. */
  readonly at: number;
}

/** All marks in the order in which they came, and every edit that can be taken back or done again. */
export interface History {
  readonly marks: readonly Mark[];
  readonly done: readonly Edit[];
  readonly undone: readonly Edit[];
}

/** So many edits can be taken back. */
export const MOST_EDITS = 500;

/** A history with nothing to undo or redo. */
export const startHistory = (marks: readonly Mark[]): History => ({ marks, done: [], undone: [] });

/** @param after what becomes of marks: changed or new ones; ids of those that go */
export function edited(
  history: History,
  name: string,
  after: { readonly put?: readonly Mark[]; readonly remove?: readonly string[] },
): History {
  const places = new Map(history.marks.map(({ id }, at) => [id, at]));
  const change = (id: string, to: Mark | null): Change => {
    const at = places.get(id) ?? -1;
    return { id, before: history.marks[at] ?? null, after: to, at };
  };
  const all = [
    ...(after.put ?? []).map((mark) => change(mark.id, mark)),
    ...(after.remove ?? []).map((id) => change(id, null)),
  ];
  const changes = all.filter((one) => one.before !== one.after);
  if (changes.length === 0) return history;
  const edit: Edit = { name, changes };
  return { marks: applied(history.marks, edit, 'after'), done: [...history.done, edit].slice(-MOST_EDITS), undone: [] };
}

/** @returns the same history if there is nothing to take back */
export function undone(history: History): History {
  const edit = history.done.at(-1);
  if (!edit) return history;
  return {
    marks: applied(history.marks, edit, 'before'),
    done: history.done.slice(0, -1),
    undone: [...history.undone, edit],
  };
}

/** Does again what was undone last; the same history where nothing was. */
export function redone(history: History): History {
  const edit = history.undone.at(-1);
  if (!edit) return history;
  return {
    marks: applied(history.marks, edit, 'after'),
    done: [...history.done, edit],
    undone: history.undone.slice(0, -1),
  };
}

/** Marks keep their place, and what comes back gets the place that it had. */
function applied(marks: readonly Mark[], { changes }: Edit, side: 'before' | 'after'): readonly Mark[] {
  const to = new Map(changes.map((change) => [change.id, change[side]]));
  const next = marks.flatMap((mark) => {
    const own = to.get(mark.id);
    if (own === undefined) return [mark];
    to.delete(mark.id);
    return own ? [own] : [];
  });
  const coming = changes.filter(({ id }) => to.get(id));
  if (side === 'before') coming.sort((a, b) => a.at - b.at);
  for (const { id, at } of coming) next.splice(side === 'before' && at >= 0 ? at : next.length, 0, to.get(id)!);
  return next;
}

/** Another window has changed marks: they are here, and what was done to others can still be taken back. */
export function heard(
  history: History,
  told: { readonly put: readonly Mark[]; readonly remove: readonly string[] },
): History {
  const ids = new Set([...told.put.map(({ id }) => id), ...told.remove]);
  const changes = [
    ...told.put.map((mark) => ({ id: mark.id, before: null, after: mark, at: -1 })),
    ...told.remove.map((id) => ({ id, before: null, after: null, at: -1 })),
  ];
  const isOther = ({ changes: own }: Edit): boolean => !own.some(({ id }) => ids.has(id));
  return {
    marks: applied(history.marks, { name: '', changes }, 'after'),
    done: history.done.filter(isOther),
    undone: history.undone.filter(isOther),
  };
}
