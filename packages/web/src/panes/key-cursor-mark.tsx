import { useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { USUAL_STEP, type KeyStep } from '@gull-pane/core/intent/key-cursor';
import { readLength, type Reading } from '@gull-pane/core/typed/typed-number';
import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type { Parts } from '../actions/action';
import { KeyCaps } from '../actions/action-tip';
import { shownKey, useBindings } from '../actions/bindings';
import { keyCursorAction } from '../actions/key-cursor-action';
import { exactText } from '../basics/figures';
import { focusActivePane } from '../input/focus-pane';

/** The cursor that arrow keys lead, and how far each press does. */
export function KeyCursorMark({ target }: { readonly target: Parts<'pane' | 'drawing' | 'ui'> }): ReactElement | null {
  const step = useStore(target.ui, (state) => state.keyCursor);
  const cursor = useStore(target.pane, (state) => state.cursor);
  const { widthPx, heightPx } = useStore(target.pane, (state) => state.viewport);
  const key = shownKey(useBindings()[keyCursorAction.id] ?? []);
  const isOn = step !== null;
  useEffect(() => {
    if (isOn) focusActivePane(); // its keys are for the pane
  }, [isOn]);
  if (!step) return null;
  const { x, y } = cursor ?? { x: widthPx / 2, y: heightPx / 2 };
  return (
    <>
      <svg className="key-cursor" width={widthPx} height={heightPx} aria-hidden>
        <path d={`M${x - 22} ${y}H${x - 5}M${x + 5} ${y}H${x + 22}M${x} ${y - 22}V${y - 5}M${x} ${y + 5}V${y + 22}`} />
      </svg>
      <div className="key-cursor-bar" role="group" aria-label="Keyboard cursor">
        Arrows move it by <StepField target={target} step={step} />, <KeyCaps keyName="Shift" /> by 1 px;{' '}
        <KeyCaps keyName=" " /> clicks; {key !== undefined && <KeyCaps keyName={key} />} puts it away.
      </div>
    </>
  );
}

const written = (step: KeyStep, unit: DrawingUnit): string =>
  'px' in step ? `${step.px} px` : `${exactText(step.units)}${unit === 'none' ? '' : ` ${unit}`}`;

/** @returns the step that a text means: `8 px`, `500`, `2.5 m` */
function readStep(text: string, unit: DrawingUnit): Reading<KeyStep> {
  const [, px] = /^\s*(\d+(?:[.,]\d+)?)\s*px\s*$/i.exec(text) ?? [];
  if (px !== undefined) return { value: { px: Number(px.replace(',', '.')) } };
  const length = readLength(text, unit);
  if ('trouble' in length) return length;
  return length.value > 0 ? { value: { units: length.value } } : { trouble: 'A step is more than 0.' };
}

function StepField({
  target,
  step,
}: {
  readonly target: Parts<'drawing' | 'ui'>;
  readonly step: KeyStep;
}): ReactElement {
  const { unit } = useStore(target.drawing, (state) => state.drawing);
  const [typed, setTyped] = useState<string | null>(null);
  const read = typed === null ? null : typed.trim() === '' ? { value: USUAL_STEP } : readStep(typed, unit);
  const trouble = read && 'trouble' in read ? read.trouble : null;
  const hold = (): void => {
    if (read && 'value' in read) target.ui.getState().set({ keyCursor: read.value });
    setTyped(null);
  };
  return (
    <input
      className="key-cursor-step figures"
      aria-label="Step of the keyboard cursor"
      aria-invalid={trouble !== null}
      title={trouble ?? 'A number of px, as 8 px, or a length in the drawing, as 500 mm'}
      value={typed ?? written(step, unit)}
      onChange={(event) => setTyped(event.target.value)}
      onFocus={(event) => event.target.select()}
      onBlur={hold}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Escape') setTyped(null);
        if (event.key !== 'Enter' && event.key !== 'Escape') return;
        if (event.key === 'Enter') hold();
        focusActivePane();
      }}
    />
  );
}
