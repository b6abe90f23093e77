import { beforeEach, describe, expect, it } from 'vitest';
import { ApiError } from '../api/client';
import { VersionedList, positionBefore, type Conflict, type Versioned } from './versioned-list';

interface Thing extends Versioned {
  readonly group: string;
}
type Change = Partial<Pick<Thing, 'name' | 'group' | 'position'>>;
const thing = (id: string, position: number, version = 1): Thing => ({
  id,
  name: id.toUpperCase(),
  group: '',
  position,
  version,
});

/** A server that keeps things with versions, and can be told to lose its answers. */
class Server {
  readonly things = new Map<string, Thing>();
  losesNext = false;
  keep = (body: Omit<Thing, 'version'>): Promise<Thing> => {
    const known = this.things.get(body.id);
    if (known) return Promise.reject(new ApiError('Kept already', '', '', 409, known));
    return this.#answer({ ...body, version: 1 });
  };
  change = (id: string, { version, ...change }: Change & { version: number }): Promise<Thing> => {
    const known = this.things.get(id);
    if (!known) return Promise.reject(new ApiError('Gone', '', '', 404));
    if (known.version !== version) return Promise.reject(new ApiError('Conflict', '', '', 409, known));
    return this.#answer({ ...known, ...change, version: version + 1 });
  };
  remove = (id: string): Promise<void> =>
    this.things.delete(id) ? Promise.resolve() : Promise.reject(new ApiError('Gone', '', '', 404));
  #answer(next: Thing): Promise<Thing> {
    this.things.set(next.id, next);
    const isLost = this.losesNext;
    this.losesNext = false;
    return isLost ? Promise.reject(new ApiError('Away', '', '', 0)) : Promise.resolve(next);
  }
}

let server: Server;
let conflicts: Conflict<Thing, Change>[];
let shown: readonly Thing[];
function open(): VersionedList<Thing, Omit<Thing, 'version'>, Change> {
  return new VersionedList<Thing, Omit<Thing, 'version'>, Change>(server, {
    // tries again at once when the server wasn't reached
    save: async (send) => {
      for (let tries = 0; ; tries++) {
        try {
          await send();
          return;
        } catch (error) {
          if (!(error instanceof ApiError && error.status === 0) || tries > 3) throw error;
        }
      }
    },
    onChange: (items) => (shown = items),
    onConflict: (conflict) => conflicts.push(conflict),
  });
}
const names = (): string[] => shown.map(({ name }) => name);
const bodyOf = { id: 'new', name: 'NEW', group: '', position: 9 };

describe('a list that others change, too', () => {
  beforeEach(() => {
    server = new Server();
    conflicts = [];
    shown = [];
    for (const own of [thing('b', 2), thing('a', 1)]) server.things.set(own.id, own);
  });

  it('shows a change at once and has the server’s version afterwards', async () => {
    const list = open();
    list.told([...server.things.values()]);
    expect(names()).toEqual(['A', 'B']);
    const changed = list.change('b', { name: 'First', position: 0 });
    expect(names()).toEqual(['First', 'A']);
    await changed;
    expect(server.things.get('b')).toMatchObject({ name: 'First', position: 0, version: 2 });
    expect(list.find('b')!.version).toBe(2);
  });

  it('makes of several changes in a row each of what the one before has left', async () => {
    const list = open();
    list.told([...server.things.values()]);
    await Promise.all([list.change('a', { name: 'One' }), list.change('b', { group: 'X' })]);
    await list.change('a', { group: 'Y' });
    await list.change('a', { name: 'Two' });
    expect(server.things.get('a')).toMatchObject({ name: 'Two', group: 'Y', version: 4 });
    expect(conflicts).toEqual([]);
  });

  it('keeps and changes once what was sent twice because an answer was lost', async () => {
    const list = open();
    list.told([...server.things.values()]);
    server.losesNext = true;
    await list.add({ ...bodyOf, version: 0 }, bodyOf);
    expect(names()).toEqual(['A', 'B', 'NEW']);
    expect(list.find('new')!.version).toBe(1);
    server.losesNext = true;
    await list.change('new', { name: 'Renamed' });
    expect(list.find('new')).toMatchObject({ name: 'Renamed', version: 2 });
    expect(conflicts).toEqual([]);
  });

  it('tells both versions where another window was faster, and shows theirs until that is settled', async () => {
    const list = open();
    list.told([...server.things.values()]);
    server.things.set('a', { ...thing('a', 1, 2), name: 'Theirs' });
    await list.change('a', { name: 'Mine' });
    expect(conflicts).toEqual([{ theirs: { ...thing('a', 1, 2), name: 'Theirs' }, mine: { name: 'Mine' } }]);
    expect(names()).toEqual(['Theirs', 'B']);
    await list.change('a', conflicts[0]!.mine);
    expect(server.things.get('a')).toMatchObject({ name: 'Mine', version: 3 });
  });

  it('is a conflict, too, if the other change is heard of while the own one still waits', async () => {
    let letGo = (): void => undefined;
    let last = new Promise<void>((resolve) => (letGo = resolve));
    const list = new VersionedList<Thing, Omit<Thing, 'version'>, Change>(server, {
      save: (send) => {
        const sent = last.then(send);
        last = sent.catch(() => undefined);
        return sent;
      },
      onChange: (items) => (shown = items),
      onConflict: (conflict) => conflicts.push(conflict),
    });
    list.told([...server.things.values()]);
    const waiting = list.change('a', { name: 'Mine' });
    const again = list.change('a', { group: 'G' });
    server.things.set('a', { ...thing('a', 1, 2), name: 'Theirs' });
    list.heard(server.things.get('a')!);
    list.told([...server.things.values()]);
    expect(names()).toEqual(['Mine', 'B']);
    letGo();
    await Promise.all([waiting, again]);
    expect(conflicts.map(({ mine }) => mine)).toEqual([{ name: 'Mine' }, { group: 'G' }]);
    expect(names()).toEqual(['Theirs', 'B']);
    for (const { mine } of conflicts) await list.change('a', mine);
    expect(server.things.get('a')).toMatchObject({ name: 'Mine', group: 'G', version: 4 });
  });

  it('hears what others do, but nothing that is older than what it knows', () => {
    const list = open();
    list.told([...server.things.values()]);
    list.heard({ ...thing('a', 1, 3), name: 'Newer' });
    list.heard({ ...thing('a', 1, 2), name: 'Late' });
    list.heardGone('b');
    expect(names()).toEqual(['Newer']);
  });

  it('deletes what somebody else has deleted, and shows again what the server won’t delete', async () => {
    const list = open();
    list.told([...server.things.values()]);
    server.things.delete('a');
    await list.remove('a');
    expect(names()).toEqual(['B']);
    server.remove = () => Promise.reject(new ApiError('No', '', '', 500));
    await expect(list.remove('b')).rejects.toThrow();
    expect(names()).toEqual(['B']);
  });
});

describe('a place in the order', () => {
  it('lies between its neighbours, before all, or behind all', () => {
    const items = [thing('a', 1), thing('b', 2), thing('c', 4)];
    expect(positionBefore(items, 'c', 'b')).toBe(1.5);
    expect(positionBefore(items, 'c', 'a')).toBe(0);
    expect(positionBefore(items, 'a', null)).toBe(5);
    expect(positionBefore([], 'a', null)).toBe(0);
  });
});
