import type { CardDto } from '@gull-pane/protocol/cards';

export interface CardGroup {
  readonly name: string;
  readonly cards: readonly CardDto[];
}

/**
 * Cards by their groups, both in the order in which cards stand; those without a group first.
 * @param wanted only cards whose name or group holds it, in any case; all if empty
 */
export function inGroups(cards: readonly CardDto[], wanted: string): CardGroup[] {
  const needle = wanted.trim().toLocaleLowerCase();
  const groups = new Map<string, CardDto[]>();
  for (const card of cards) {
    if (needle !== '' && !`${card.name}\n${card.group}`.toLocaleLowerCase().includes(needle)) continue;
    const known = groups.get(card.group);
    if (known) known.push(card);
    else groups.set(card.group, [card]);
  }
  return [...groups]
    .map(([name, own]) => ({ name, cards: own }))
    .sort((a, b) => Number(a.name !== '') - Number(b.name !== ''));
}
