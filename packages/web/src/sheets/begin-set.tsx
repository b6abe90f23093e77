import { Button, Select } from 'antd';
import { useState, type ReactElement } from 'react';
import { formatScale, standardScales } from '@gull-pane/core/camera/scale';
import { paperNames, paperSize, type PaperName } from '@gull-pane/core/sheets/paper';
import { scaleWithRoom, viewAreaOf } from '@gull-pane/core/sheets/sheet';
import { readScale } from '@gull-pane/core/typed/typed-number';
import type { CardDto } from '@gull-pane/protocol/cards';
import { LEAST_DENOMINATOR, MOST_DENOMINATOR, MOST_SHEETS, type PaperSheetDto } from '@gull-pane/protocol/sheet-sets';
import { FigureField } from '../controls/figure-field';
import {
  coveringGrid,
  firstShows,
  sheetOf,
  sheetOfCard,
  sheetsCovering,
  viewOfAll,
  type LaidOutDrawing,
} from './lay-out';

interface BeginSetProps {
  readonly of: LaidOutDrawing;
  readonly cards: readonly CardDto[];
  /** @param name what the set is called */
  readonly onBegin: (name: string, sheets: readonly PaperSheetDto[]) => void;
}

const OVERLAP_MM = 10;

/** Three ways to begin a set: all on one sheet, a sheet for each view card, as many sheets as a scale takes. */
export function BeginSet({ of, cards, onBegin }: BeginSetProps): ReactElement {
  const [name, setName] = useState<PaperName>('A3');
  const paper = paperSize(name, false);
  const { extents, unit } = of.drawing;
  const whole = viewOfAll(of, paper);
  // one step larger than what one sheet takes
  const [denominator, setDenominator] = useState<number | null>(null);
  const scale = denominator ?? nextLarger(whole.denominator);
  const wish = { paper, denominator: scale, overlapMm: OVERLAP_MM };
  const [columns, rows] = coveringGrid(of, wish);
  const plans = cards.filter(({ camera }) => camera.fovRad === undefined);
  const isEmpty = !extents || scaleWithRoom(extents.max.x - extents.min.x, 1, viewAreaOf(paper), unit) <= 0;
  return (
    <div className="begin-set">
      <img
        className="begin-picture"
        src={`/api/drawings/${of.drawing.id}/picture.png?r=${of.drawing.revision}`}
        alt=""
      />
      <h1>Onto paper</h1>
      <p className="muted">
        Views of “{of.drawing.name}” at exact scales, on sheets that go out as PDF with all their lines, layers and
        texts.
      </p>
      <label className="sheet-field">
        <span>Paper</span>
        <Select
          aria-label="Paper"
          value={name}
          options={paperNames.map((one) => ({ value: one, label: one }))}
          onChange={setName}
        />
      </label>
      <ul>
        <li>
          <Button
            type="primary"
            disabled={isEmpty}
            onClick={() => onBegin('Whole drawing', [sheetOf(of.drawing.name, paper, whole, firstShows(of.layers))])}
          >
            All on one sheet
          </Button>
          <span className="muted">{`The whole drawing at ${formatScale(whole.denominator)}.`}</span>
        </li>
        <li>
          <Button
            disabled={plans.length === 0}
            onClick={() =>
              onBegin(
                'View cards',
                plans.slice(0, MOST_SHEETS).map((card) => sheetOfCard(card, of, paper)),
              )
            }
          >
            A sheet for each view card
          </Button>
          <span className="muted">
            {plans.length === 0
              ? 'This drawing has no view cards yet.'
              : `${plans.length} ${plans.length === 1 ? 'sheet' : 'sheets'}, each at the first standard scale that holds its view.`}
          </span>
        </li>
        <li>
          <Button
            disabled={isEmpty || columns * rows > MOST_SHEETS}
            onClick={() => onBegin(`Parts at ${formatScale(scale)}`, sheetsCovering(of, wish) ?? [])}
          >
            Cover the drawing
          </Button>
          <span aria-hidden>at</span>
          <FigureField
            label="Scale of the parts"
            value={scale}
            min={LEAST_DENOMINATOR}
            max={MOST_DENOMINATOR}
            read={readScale}
            write={formatScale}
            onSet={setDenominator}
          />
          <span className="muted">
            {columns * rows > MOST_SHEETS
              ? `That would take ${columns} × ${rows} sheets; a set has ${MOST_SHEETS} at most.`
              : `${columns} × ${rows} ${columns * rows === 1 ? 'sheet' : 'sheets'} that overlap by ${OVERLAP_MM} mm, with match lines.`}
          </span>
        </li>
      </ul>
    </div>
  );
}

const nextLarger = (denominator: number): number =>
  standardScales.filter((scale) => scale < denominator).reduce((a, b) => Math.max(a, b), 0) || denominator / 2;
