import { Input, Button } from 'antd';
import { useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { measureKindOf } from '@gull-pane/core/measure/measure-kinds';
import { along3, length3, sub3 } from '@gull-pane/core/geometry/vec';
import { offsetPlane } from '@gull-pane/core/plane/work-plane';
import { collectableOf } from '@gull-pane/core/tools/collectables';
import { parseTyped, typedExamples } from '@gull-pane/core/typed/typed-place';
import { layPlane } from '../store/lay-plane';
import type { Parts } from '../actions/action';
import { ActionTip, KeyCaps } from '../actions/action-tip';
import { collected, towards, typedPlace } from '../marks/collected';
import { placeUnder, pointBefore } from '../snapping/find-snaps';
import { useNotes } from '../store/notes-store';
import { useFigureStyle } from '../words/figure-style';
import { copyFigures } from './figures-tag';
import { typedInWords } from './typed-words';
import { figureText, figuresAsText } from '../basics/figures';

/** What a tool that collects points expects, what it has been given, which keys help. */
export function CollectPrompt({
  target,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'seen' | 'areas' | 'marks' | 'tools'>;
}): ReactElement {
  const { tools, marks } = target;
  const collecting = useStore(tools, (state) => state.collecting);
  const { points, isDone } = useStore(tools, ({ states }) => states.collect);
  const asksText = useStore(marks, (state) => state.asksText);
  const open = useStore(marks, (state) => state.open);
  const { group, way, expects, least, most, name } = collectableOf(collecting);
  const { unit } = useStore(target.drawing, (state) => state.drawing);
  const isLooking = useStore(target.areas, (state) => state.looking !== null);
  if (isLooking)
    return (
      <span role="status">
        Looking for the area around that place … <KeyCaps keyName="Escape" /> stops; a click elsewhere looks there.
      </span>
    );
  if (asksText) return <NotePrompt target={target} />;
  if (open && way?.id === 'hatch') return <OpenPrompt target={target} />;
  if (isDone) return <DonePrompt target={target} />;
  const given = points.length;
  const expected = expects[Math.min(given, expects.length - 1)]!;
  const canFinish = given >= least && given < most;
  return (
    <>
      <strong className="prompt-name">{name}:</strong> click {expected}
      {given > 0 && ` (${given} placed)`}, or type{' '}
      <TypedPlace key={`${collecting} ${given}`} target={target} unit={unit} />.{' '}
      {canFinish && (
        <>
          <KeyCaps keyName="Enter" /> or a double click finishes,{' '}
        </>
      )}
      <KeyCaps keyName="Escape" /> {given > 0 ? 'removes the last point' : 'puts the tool away'}
      {group === 'mark' && (
        <>
          ; <KeyCaps keyName="Shift" /> and a click copy an object’s style
        </>
      )}
      .
    </>
  );
}

/** A place, a way or a length that is typed; Enter places it. */
function TypedPlace({
  target,
  unit,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'seen' | 'areas' | 'marks' | 'tools'>;
  readonly unit: Parameters<typeof parseTyped>[1];
}): ReactElement {
  const { tools, pane } = target;
  const [typed, setTyped] = useState('');
  const meant = typed.trim() === '' ? null : parseTyped(typed, unit);
  const place = (): void => {
    const from = pointBefore(tools.getState());
    const { plane } = pane.getState().shown.workPlane;
    if (!meant || meant.kind === 'unclear') {
      if (meant) useNotes.getState().tell('failed', meant.trouble);
      return;
    }
    if (tools.getState().collecting === 'plane-offset' && meant.kind === 'length') {
      layPlane(pane, offsetPlane(plane, meant.length));
      setTyped('');
      return;
    }
    const { cursor, viewport } = pane.getState();
    const at = cursor ?? { x: viewport.widthPx / 2, y: viewport.heightPx / 2 };
    const under = tools.getState().snap?.point ?? placeUnder(target, at);
    // an angle alone goes as far as the cursor is
    const arm = (from && under && length3(sub3(under, from))) || 1;
    const point =
      meant.kind === 'length'
        ? from && ((under && towards(from, under, meant.length)) ?? along3(from, plane.x, meant.length))
        : meant.kind === 'angle'
          ? from &&
            typedPlace(plane, from, {
              kind: 'by',
              x: Math.cos(meant.angleRad) * arm,
              y: Math.sin(meant.angleRad) * arm,
              z: 0,
            })
          : typedPlace(plane, from, meant);
    if (!point) {
      useNotes.getState().tell('failed', 'A way or a length needs a point to begin at: place one first.');
      return;
    }
    for (const intent of tools.getState().place(point))
      if (intent.kind === 'collected') collected(target, intent.points);
    setTyped('');
  };
  const { extents } = useStore(target.drawing, (state) => state.drawing);
  return (
    <>
      <ActionTip name="Typed places" sentence={examples} placement="top">
        <Input
          className="typed-place figures"
          size="small"
          aria-label="Place, way or length"
          placeholder="by 1500, 0"
          value={typed}
          status={typed.trim() !== '' && (!meant || meant.kind === 'unclear') ? 'error' : ''}
          onChange={(event) => setTyped(event.target.value)}
          onPressEnter={(event) => {
            event.stopPropagation();
            place();
          }}
        />
      </ActionTip>
      {meant && (
        <span className="figures typed-meant" role="status" aria-label="What was understood">
          {' '}
          = {typedInWords(meant, unit, extents)}
        </span>
      )}
    </>
  );
}

const examples = typedExamples.map(([example, meaning]) => `“${example}”: ${meaning}`).join('; ');

function DonePrompt({ target }: { readonly target: Parts<'pane' | 'drawing' | 'marks' | 'tools'> }): ReactElement {
  const { tools, marks } = target;
  const { points } = useStore(tools, ({ states }) => states.collect);
  const { collecting } = tools.getState();
  const style = useFigureStyle(target);
  const figures = measureKindOf(collecting)?.figures(points);
  if (!figures)
    return (
      <>
        These points measure nothing: {collecting === 'faces' ? 'one of them has to be a face' : 'choose others'}.{' '}
        <KeyCaps keyName="Escape" /> clears them.
      </>
    );
  const keep = (): void => {
    const { plane } = target.pane.getState().shown.workPlane;
    const kind = measureKindOf(collecting);
    const kept = kind?.kept ? kind.kept(points) : { measure: collecting, points };
    if (!kept) return;
    const plain = kept.points.map(({ x, y, z }) => ({ x, y, z }));
    const shape = { kind: 'measure', measure: kept.measure, points: plain, x: plane.x, y: plane.y, text: '' } as const;
    marks.getState().add(shape, 'measurement');
    tools.getState().collect(collecting);
    tools.getState().collect(collecting);
  };
  const [first] = figures;
  return (
    <>
      {first!.name} <b className="figures">{figureText(first!, style)}</b>.
      <Button size="small" onClick={() => void copyFigures(figuresAsText(figures, style))}>
        Copy
      </Button>
      <Button size="small" onClick={keep}>
        Keep as a mark
      </Button>
      Click to begin the next measurement. <KeyCaps keyName="Escape" /> clears this one.
    </>
  );
}

function NotePrompt({ target: { marks } }: { readonly target: Parts<'marks'> }): ReactElement {
  const [text, setText] = useState('');
  const field = useRef<HTMLDivElement>(null);
  return (
    <span ref={field} className="note-prompt">
      Type the note:
      <Input
        size="small"
        autoFocus
        aria-label="Text of the note"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onPressEnter={(event) => {
          event.stopPropagation();
          marks.getState().write(text);
        }}
        onKeyDown={(event) => {
          if (event.key !== 'Escape') return;
          event.stopPropagation();
          marks.getState().write('');
        }}
      />
      <KeyCaps keyName="Enter" /> keeps it, <KeyCaps keyName="Escape" /> leaves it out.
    </span>
  );
}

/** The area isn't closed: where, and what can be done. */
function OpenPrompt({ target }: { readonly target: Parts<'drawing' | 'marks'> }): ReactElement {
  const { marks } = target;
  const open = useStore(marks, (state) => state.open)!;
  const style = useFigureStyle(target);
  const { gaps, shape } = open;
  const [widest] = gaps;
  if (!shape || !widest)
    return (
      <>
        No closed boundary around that point, and no gap small enough to close. Click another place;{' '}
        <KeyCaps keyName="Escape" /> puts the tool away.
      </>
    );
  const size = figureText({ name: '', quantity: 'length', value: Number(widest.size.toPrecision(4)) }, style);
  return (
    <>
      The area is open{gaps.length > 1 ? ` at ${gaps.length} places; the widest gap is` : ': the gap is'} {size} wide,
      it is ringed.
      <Button
        size="small"
        onClick={() => {
          marks.getState().setOpen(null);
          marks.getState().add(shape, 'hatch');
        }}
      >
        Hatch as if it were closed
      </Button>
      <Button size="small" onClick={() => marks.getState().setOpen(null)}>
        Leave it
      </Button>
    </>
  );
}
