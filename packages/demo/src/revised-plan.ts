import { seededRandom } from '@gull-pane/core/geometry/random';

/** How many elements of the plan were changed in which way. */
export interface PlanEdits {
  readonly added: number;
  readonly gone: number;
  readonly moved: number;
  readonly restyled: number;
  readonly renamed: number;
}

/** A new brine line with its supports, m from the sheet's corner. */
const newLine = (k: number): string =>
  `<path d="M${round(412_300_000 + 4100 * k)} ${-7_208_300_000 + 350 * (k % 3)}h3600v-900"/>\n`;
const round = (value: number): string => String(Math.round(value * 1000) / 1000);

/**
 * The next revision of a plan that was written as SVG, the same every time: trees felled, valves renamed, filter cells
 * moved, pipes in another weight, a brine line laid.
 * @param svg one element a line, as `PlanWriter` writes it
 */
export function revisedPlan(svg: string): { readonly svg: string; readonly edits: PlanEdits } {
  const random = seededRandom(0x72657642);
  const edits = { added: 0, gone: 0, moved: 0, restyled: 0, renamed: 0 };
  let layer = '';
  const lines = svg.split('\n').flatMap((line): string[] => {
    layer = /^<g id="([^"]*)"/.exec(line)?.[1] ?? layer;
    const isMeant = random() < (layer === 'Valves' ? 0.3 : 0.06);
    if (layer === 'Planting' && line.startsWith('<circle') && isMeant && edits.gone < 40) {
      edits.gone++;
      return [];
    }
    if (layer === 'Valves' && line.startsWith('<text') && isMeant && edits.renamed < 30) {
      edits.renamed++;
      return [line.replace(/KS-VA-(\d+)/, 'KS-VA-$1B')];
    }
    if (layer === 'Filter cells' && /^<(rect|circle)/.test(line) && isMeant && edits.moved < 40) {
      edits.moved++;
      return [line.replace(/\b(c?x)="([^"]*)"/, (_, name: string, x: string) => `${name}="${round(Number(x) + 350)}"`)];
    }
    if (layer === 'Fence' && /^<(path|rect|circle)/.test(line) && isMeant && edits.restyled < 30) {
      edits.restyled++;
      return [line.replace('/>', ' stroke="#b3541e"/>')];
    }
    return [line];
  });
  const end = lines.findIndex((line) => line === '</svg>');
  const added = Array.from({ length: 60 }, (_, k) => newLine(k));
  edits.added = added.length;
  lines.splice(end, 0, `<g id="Brine line B" stroke="#7a3f8f" stroke-width="80">\n${added.join('')}</g>`);
  return { svg: lines.join('\n'), edits };
}
