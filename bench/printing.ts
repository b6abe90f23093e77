/** A sheet of a large plan as PDF, against the package that writes it drawing bare lines. */
import PDFDocument from 'pdfkit';
import { paperSize } from '@gull-pane/core/sheets/paper';
import { scaleWithRoom, sheetOfView, viewAreaOf } from '@gull-pane/core/sheets/sheet';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { PrintDto } from '@gull-pane/protocol/sheet-sets';
import { ratio, type Figure } from './statistics.ts';

/** @param samples how often it is measured */
export async function measurePrinting(
  url: string,
  { id, extents, unit, counts }: DrawingDto,
  samples: number,
  keep: (figure: Figure) => void,
): Promise<void> {
  const paper = paperSize('A0', false);
  const { min, max } = extents!;
  const denominator = scaleWithRoom(max.x - min.x, max.y - min.y, viewAreaOf(paper), unit);
  const view = { x: (min.x + max.x) / 2, y: (min.y + max.y) / 2, bearingRad: 0, denominator };
  const shows = { kindsOff: [], hiddenLayers: [], hiddenMarkLayers: [], hiddenObjects: '' };
  const sheet = sheetOfView('All of it', paper, view);
  const set: PrintDto = {
    fields: { project: '', title: 'Large plan', number: '', revision: '', author: '', date: '' },
    sheets: [{ ...sheet, frames: sheet.frames.map((frame) => ({ ...frame, shows })), matchLines: [] }],
  };
  const ours: number[] = [];
  const peer: number[] = [];
  for (let i = 0; i < samples; i++) {
    let began = performance.now();
    const answer = await fetch(`${url}api/drawings/${id}/print`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(set),
    });
    if (!answer.ok) throw new Error(`the plan isn’t printed: ${answer.status} ${await answer.text()}`);
    const { byteLength } = await answer.arrayBuffer();
    ours.push(performance.now() - began);
    began = performance.now();
    await bareLines(counts.segments);
    peer.push(performance.now() - began);
    if (i === 0) console.log(`a sheet of ${counts.segments} lines and curves: ${Math.round(byteLength / 1024)} kB`);
  }
  keep(ratio('pdf-1m', 4, 'pdfkit writing as many bare lines', { ours, peer }));
}

/** As many lines on a page, each drawn by itself. */
async function bareLines(count: number): Promise<void> {
  const document = new PDFDocument({ size: 'A0' });
  document.resume();
  const ended = new Promise((resolve) => document.once('end', resolve));
  for (let i = 0; i < count; i++) {
    const [x, y] = [(i % 1000) * 2.3, Math.floor(i / 1000) * 3.1];
    document
      .moveTo(x, y)
      .lineTo(x + 2.123, y + 1.456)
      .stroke();
  }
  document.end();
  await ended;
}
