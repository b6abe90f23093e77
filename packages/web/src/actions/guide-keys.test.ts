import { expect, it } from 'vitest';
import { allActions } from './all-actions';
import { keyCaps } from './keys';

const caps = (input: string): string =>
  keyCaps(input)
    .map((cap) => `<kbd>${cap.replaceAll('|', '\\|').replaceAll('<', '&lt;').replaceAll('`', '&#96;')}</kbd>`)
    .join(' ');

/** The guide's table of actions. After a change: `npx vitest run --project unit guide-keys -u`. */
it('the guide lists every action with its keys', async () => {
  const rows = allActions.map(({ name, keys, sentence, for: kind }) => {
    const where = kind === 'solid' ? 'models' : kind === 'flat' ? 'flat drawings' : 'both';
    return `| ${name} | ${[...new Set(keys.slice(0, 2).map(caps))].join(', ')} | ${where} | ${sentence.replaceAll('|', '\\|')} |`;
  });
  const page = [
    '# All actions',
    '',
    'Made from the actions themselves, for the *wheel button* profile. Keys can be changed under *Hands and picture*.',
    '',
    '| action | keys | for | what it does |',
    '| --- | --- | --- | --- |',
    ...rows,
    '',
  ];
  await expect(page.join('\n')).toMatchFileSnapshot('../../../../docs/guide/keys.md');
});
