import { Button, Checkbox, ColorPicker, Input, Segmented, Select } from 'antd';
import { Redo2, Trash2, Undo2 } from 'lucide-react';
import { useMemo, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { worldPlane, type WorkPlane } from '@gull-pane/core/plane/work-plane';
import { lineStyles, lineWidthsMm, type LineStyle, type Mark, type MarkStyle } from '@gull-pane/core/marks/mark';
import { measureKindOf } from '@gull-pane/core/measure/measure-kinds';
import { isWorldPlane, withMarkLayers } from '@gull-pane/core/view/shown';
import { layPlane } from '../store/lay-plane';
import { LongList } from '../controls/long-list';
import { NothingYet } from '../controls/nothing-yet';
import type { Parts } from '../actions/action';
import { grouped, figureText } from '../basics/figures';
import { usePreferences } from '../store/preferences-store';
import { useFigureStyle } from '../words/figure-style';
import './marks-panel.css';

/** How high a row is before it was measured, CSS px. */
const ROW_PX = 26;

/** A layer of marks, or a mark on it. */
type Row = { readonly layer: string; readonly count: number } | Mark;

/** Layers in the order in which they were begun, each with its marks. */
function rowsOf(marks: readonly Mark[]): readonly Row[] {
  const layers = new Map<string, Mark[]>();
  for (const mark of marks) {
    if (mark.kind === 'plane') continue;
    const own = layers.get(mark.layer);
    if (own) own.push(mark);
    else layers.set(mark.layer, [mark]);
  }
  return [...layers].flatMap(([layer, own]): Row[] => [{ layer, count: own.length }, ...own]);
}

/** What is drawn on top of the drawing: layers to show and hide, marks to choose, how new ones look. */
export function MarksPanel({ target }: { readonly target: Parts<'pane' | 'drawing' | 'marks'> }): ReactElement {
  const { marks } = target;
  const { marks: all, chosen, undoes, redoes, undo, redo } = useStore(marks);
  const rows = useMemo(() => rowsOf(all), [all]);
  return (
    <div className="marks-panel">
      <div className="marks-undo">
        <Button size="small" icon={<Undo2 size={14} aria-hidden />} disabled={undoes === null} onClick={undo}>
          {undoes === null ? 'Undo' : `Undo ${undoes}`}
        </Button>
        <Button size="small" icon={<Redo2 size={14} aria-hidden />} disabled={redoes === null} onClick={redo}>
          {redoes === null ? 'Redo' : `Redo ${redoes}`}
        </Button>
      </div>
      <Look target={target} />
      {target.drawing.getState().solid && <Planes target={target} />}
      {rows.length === 0 ? (
        <NothingYet>
          Nothing is drawn on top yet. Take a kind of mark from the rail; measurements can be kept, too.
        </NothingYet>
      ) : (
        <LongList
          label="Marks"
          rows={rows}
          keyOf={(row) => ('count' in row ? `layer ${row.layer}` : row.id)}
          guessPx={() => ROW_PX}
        >
          {(row) => ('count' in row ? <MarkLayer target={target} {...row} /> : <MarkRow target={target} mark={row} />)}
        </LongList>
      )}
      {chosen.size > 0 && (
        <Button
          size="small"
          danger
          icon={<Trash2 size={14} aria-hidden />}
          onClick={() => marks.getState().remove([...chosen])}
        >
          Delete {chosen.size === 1 ? 'the chosen mark' : `${grouped(chosen.size)} marks`}
        </Button>
      )}
    </div>
  );
}

/** How the chosen marks look, or the next ones where none is chosen. */
function Look({ target: { marks } }: { readonly target: Parts<'marks'> }): ReactElement {
  const { marks: all, chosen, restyle } = useStore(marks);
  const { markStyle, set } = usePreferences();
  const [first] = all.filter(({ id }) => chosen.has(id));
  const shown: MarkStyle = first ?? markStyle;
  const change = (style: Partial<MarkStyle>): void => {
    if (chosen.size > 0) restyle([...chosen], style);
    else set({ markStyle: { ...markStyle, ...style } });
  };
  return (
    <fieldset className="marks-look">
      <legend>
        {chosen.size === 0 ? 'New marks' : chosen.size === 1 ? 'The chosen mark' : `${chosen.size} chosen marks`}
      </legend>
      <LayerName key={shown.layer} name={shown.layer} onChange={(layer) => change({ layer })} />
      <ColorPicker
        size="small"
        disabledAlpha
        value={shown.colour}
        onChangeComplete={(colour) => change({ colour: colour.toHexString().slice(0, 7).toLowerCase() })}
      >
        <button
          type="button"
          className="marks-colour"
          aria-label={`Colour, ${shown.colour}`}
          style={{ background: shown.colour }}
        />
      </ColorPicker>
      <Segmented<LineStyle>
        size="small"
        aria-label="Line"
        value={shown.line}
        options={[...lineStyles]}
        onChange={(line) => change({ line })}
      />
      <Select<number>
        size="small"
        aria-label="Width of lines"
        value={shown.widthMm}
        options={lineWidthsMm.map((value) => ({ value, label: `${value} mm` }))}
        onChange={(widthMm) => change({ widthMm })}
      />
    </fieldset>
  );
}

function LayerName({
  name,
  onChange,
}: {
  readonly name: string;
  readonly onChange: (name: string) => void;
}): ReactElement {
  const [typed, setTyped] = useState(name);
  const commit = (): void => {
    if (typed.trim() !== '' && typed.trim() !== name) onChange(typed.trim());
    else setTyped(name);
  };
  return (
    <Input
      size="small"
      aria-label="Layer of marks"
      maxLength={120}
      value={typed}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={commit}
      onPressEnter={(event) => event.currentTarget.blur()}
    />
  );
}

function MarkLayer({
  target: { pane },
  layer,
  count,
}: {
  readonly target: Parts<'pane'>;
  readonly layer: string;
  readonly count: number;
}): ReactElement {
  const isHidden = useStore(pane, ({ shown }) => shown.marks.hiddenLayers.has(layer));
  return (
    <Checkbox
      checked={!isHidden}
      onChange={({ target: { checked } }) =>
        pane.getState().update((shown) => withMarkLayers(shown, [layer], checked), 'marks')
      }
    >
      {layer} <span className="muted figures">{grouped(count)}</span>
    </Checkbox>
  );
}

function MarkRow({ target, mark }: { readonly target: Parts<'drawing' | 'marks'>; readonly mark: Mark }): ReactElement {
  const { marks } = target;
  const isChosen = useStore(marks, (state) => state.chosen.has(mark.id));
  const style = useFigureStyle(target);
  return (
    <>
      <button
        type="button"
        className="mark-row"
        aria-pressed={isChosen}
        onClick={(event) => marks.getState().choose([mark.id], event.shiftKey)}
      >
        <i style={{ background: mark.colour }} aria-hidden />
        <span>{nameOf(mark, style)}</span>
      </button>
      {mark.kind === 'note' && isChosen && <NoteText target={target} mark={mark} />}
    </>
  );
}

function NoteText({ target: { marks }, mark }: { readonly target: Parts<'marks'>; readonly mark: Mark }): ReactElement {
  const [text, setText] = useState(mark.text);
  const commit = (): void => {
    if (text.trim() !== '' && text !== mark.text) marks.getState().rename(mark.id, text);
  };
  return (
    <Input.TextArea
      autoSize
      aria-label="Text of the note"
      maxLength={4000}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={commit}
    />
  );
}

function nameOf({ kind, text, measure, points }: Mark, style: Parameters<typeof figureText>[1]): string {
  const called = kind === 'chain' ? 'polyline' : kind;
  if (kind !== 'measure') return text === '' ? called : `${called}: ${text}`;
  const found = measureKindOf(measure ?? '');
  const [first] = found?.figures(points) ?? [];
  return first ? `${found!.name.toLowerCase()}: ${figureText(first, style)}` : 'measurement';
}

/** Work planes that are kept with the drawing. */
function Planes({ target }: { readonly target: Parts<'pane' | 'marks'> }): ReactElement {
  const { marks, pane } = target;
  const kept = useStore(marks, (state) => state.marks).filter(({ kind }) => kind === 'plane');
  const { plane, name: planeName } = useStore(pane, ({ shown }) => shown.workPlane);
  const isWorld = useStore(pane, ({ shown }) => isWorldPlane(shown));
  const [name, setName] = useState('');
  const use = (mark: Mark): WorkPlane => ({ origin: mark.points[0]!, x: mark.x, y: mark.y });
  const keep = (): void => {
    const called = name.trim() || `Plane ${kept.length + 1}`;
    marks
      .getState()
      .add({ kind: 'plane', points: [plane.origin], x: plane.x, y: plane.y, text: called }, `plane “${called}”`);
    layPlane(pane, plane, called);
    setName('');
  };
  return (
    <fieldset className="marks-look" aria-label="Work planes">
      <legend>Work plane: {isWorld ? 'the world’s' : planeName || 'without a name'}</legend>
      {isWorld && kept.length === 0 && (
        <p className="muted">Points lie on the faces that you click. Lay another plane from the rail.</p>
      )}
      <div className="planes">
        {!isWorld && (
          <Button size="small" onClick={() => layPlane(pane, worldPlane)}>
            Back to the world
          </Button>
        )}
        {!isWorld && (
          <>
            <Input
              size="small"
              aria-label="Name of the plane"
              placeholder="Name"
              value={name}
              onChange={(event) => setName(event.target.value)}
              onPressEnter={keep}
            />
            <Button size="small" onClick={keep}>
              Keep
            </Button>
          </>
        )}
      </div>
      <ul>
        {kept.map((mark) => (
          <li key={mark.id} className="plane-row">
            <button
              type="button"
              className="mark-row"
              aria-pressed={!isWorld && planeName === mark.text}
              onClick={() => layPlane(pane, use(mark), mark.text)}
            >
              <span>{mark.text}</span>
            </button>
            <button
              type="button"
              className="icon-button"
              aria-label={`Delete ${mark.text}`}
              onClick={() => marks.getState().remove([mark.id])}
            >
              <Trash2 size={14} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
    </fieldset>
  );
}
