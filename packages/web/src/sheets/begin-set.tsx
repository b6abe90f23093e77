import { Button, Select } from 'antd';
import { useState, type ReactElement } from 'react';
import { USUAL_TOLERANCE } from '@gull-pane/core/compare/match-objects';
import { formatScale, standardScales } from '@gull-pane/core/camera/scale';
import { paperNames, paperSize, type PaperName } from '@gull-pane/core/sheets/paper';
import { viewAreaOf } from '@gull-pane/core/sheets/sheet';
import { readScale } from '@gull-pane/core/typed/typed-number';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { RevisionDto } from '@gull-pane/protocol/revisions';
import { LEAST_DENOMINATOR, MOST_DENOMINATOR, MOST_SHEETS, type PaperSheetDto } from '@gull-pane/protocol/sheet-sets';
import { api } from '../api/client';
import { FigureField } from '../controls/figure-field';
import { troubleOf } from '../store/drawings-store';
import {
  coveringGrid,
  firstShows,
  fourViews,
  sheetOf,
  sheetOfCard,
  sheetsCovering,
  sheetsOfChanges,
  viewOfAll,
  type LaidOutDrawing,
} from './lay-out';
import { revisionName } from './revision-name';

interface BeginSetProps {
  readonly of: LaidOutDrawing;
  readonly cards: readonly CardDto[];
  readonly revisions: readonly RevisionDto[];
  /** @param name what the set is called */
  readonly onBegin: (name: string, sheets: readonly PaperSheetDto[]) => void;
}

const USUAL_OVERLAP_MM = 10;

/** Ways to begin a set: all on one sheet, a sheet for each view card, as many as a scale takes, a sheet for each change. */
export function BeginSet({ of, cards, revisions, onBegin }: BeginSetProps): ReactElement {
  const [name, setName] = useState<PaperName>('A3');
  const paper = paperSize(name, false);
  const isSolid = of.drawing.kind === 'solid';
  const whole = viewOfAll(of, paper);
  const isEmpty = !of.drawing.extents;
  const shown = cards.slice(0, MOST_SHEETS);
  return (
    <div className="begin-set">
      <img
        className="begin-picture"
        src={`/api/drawings/${of.drawing.id}/picture.png?r=${of.drawing.revision}`}
        alt=""
      />
      <h1>Onto paper</h1>
      <p className="muted">
        {isSolid
          ? `Views of “${of.drawing.name}” at exact scales, on sheets that go out as PDF: edges as lines, shaded surfaces as pictures.`
          : `Views of “${of.drawing.name}” at exact scales, on sheets that go out as PDF with all their lines, layers and texts.`}
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
            onClick={() =>
              onBegin(isSolid ? 'Whole model' : 'Whole drawing', [
                sheetOf(of.drawing.name, paper, whole, firstShows(of.layers)),
              ])
            }
          >
            All on one sheet
          </Button>
          <span className="muted">{`The whole ${isSolid ? 'model' : 'drawing'} at ${formatScale(whole.denominator)}.`}</span>
        </li>
        {isSolid && (
          <li>
            <Button disabled={isEmpty} onClick={() => onBegin('Four views', [fourViews(of, paper)])}>
              Four views on one sheet
            </Button>
            <span className="muted">The plan, two elevations and a view at an angle, at one scale.</span>
          </li>
        )}
        <li>
          <Button
            disabled={shown.length === 0}
            onClick={() =>
              onBegin(
                'View cards',
                shown.map((card) => sheetOfCard(card, of, paper)),
              )
            }
          >
            A sheet for each view card
          </Button>
          <span className="muted">
            {shown.length === 0
              ? `This ${isSolid ? 'model' : 'drawing'} has no view cards yet.`
              : `${shown.length} ${shown.length === 1 ? 'sheet' : 'sheets'}, each at the first standard scale that holds its view.`}
          </span>
        </li>
        {!isSolid && <CoverChoice of={of} name={name} isEmpty={isEmpty} onBegin={onBegin} />}
        <ChangesChoice of={of} name={name} revisions={revisions} onBegin={onBegin} />
      </ul>
    </div>
  );
}

type ChoiceProps = Pick<BeginSetProps, 'of' | 'onBegin'> & { readonly name: PaperName };

/** As many sheets as a scale takes. */
function CoverChoice({ of, name, isEmpty, onBegin }: ChoiceProps & { readonly isEmpty: boolean }): ReactElement {
  const paper = paperSize(name, false);
  // one step larger than what one sheet takes
  const [denominator, setDenominator] = useState<number | null>(null);
  const [overlapMm, setOverlapMm] = useState(USUAL_OVERLAP_MM);
  const scale = denominator ?? nextLarger(viewOfAll(of, paper).denominator);
  const { widthMm, heightMm } = viewAreaOf(paper);
  const mostMm = Math.floor(Math.min(widthMm, heightMm) / 2) - 1;
  const wish = { paper, denominator: scale, overlapMm: Math.min(overlapMm, mostMm) };
  const [columns, rows] = coveringGrid(of, wish);
  const isTooMany = columns * rows > MOST_SHEETS;
  return (
    <li>
      <Button
        disabled={isEmpty || isTooMany}
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
      <span aria-hidden>overlapping by</span>
      <FigureField label="Overlap" value={overlapMm} min={0} max={mostMm} suffix="mm" onSet={setOverlapMm} />
      <span className="muted">
        {isTooMany
          ? `That would take ${columns} × ${rows} sheets; a set has ${MOST_SHEETS} at most.`
          : `${columns} × ${rows} ${columns * rows === 1 ? 'sheet' : 'sheets'} with match lines and a key plan.`}
      </span>
    </li>
  );
}

/** A sheet for each place that changed since a revision. */
function ChangesChoice({
  of,
  name,
  revisions,
  onBegin,
}: ChoiceProps & { readonly revisions: readonly RevisionDto[] }): ReactElement | null {
  const earlier = revisions.filter(({ number }) => number < of.drawing.revision);
  const [since, setSince] = useState<number | null>(null);
  const [state, setState] = useState<{ readonly isBusy: boolean; readonly told: string }>({ isBusy: false, told: '' });
  const from = since ?? earlier[0]?.number;
  if (from === undefined) return null;
  const begin = async (): Promise<void> => {
    setState({ isBusy: true, told: 'Comparing …' });
    try {
      const comparison = await api.comparison(of.drawing.id, from, of.drawing.revision, USUAL_TOLERANCE);
      const sheets = sheetsOfChanges(of, comparison, paperSize(name, false));
      if (sheets.length > 0) onBegin(`Changes since ${revisionName(revisions, from)}`, sheets);
      else setState({ isBusy: false, told: 'Nothing has changed since then.' });
    } catch (error) {
      setState({ isBusy: false, told: troubleOf(error).title });
    }
  };
  return (
    <li>
      <Button loading={state.isBusy} onClick={() => void begin()}>
        A sheet for each change
      </Button>
      <span aria-hidden>since</span>
      <Select
        aria-label="Changes since"
        value={from}
        options={earlier.map(({ number }) => ({ value: number, label: revisionName(revisions, number) }))}
        onChange={(number) => {
          setSince(number);
          setState({ isBusy: false, told: '' });
        }}
      />
      <span className="muted" role="status">
        {state.told || 'What was is dashed, what is stands on top.'}
      </span>
    </li>
  );
}

const nextLarger = (denominator: number): number =>
  standardScales.filter((scale) => scale < denominator).reduce((a, b) => Math.max(a, b), 0) || denominator / 2;
