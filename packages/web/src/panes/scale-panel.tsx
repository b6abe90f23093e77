import { Button, Input, Slider } from 'antd';
import { useState, type ReactElement } from 'react';
import { MM_PER_CSS_PX, atScale, mmPerPxOfScreen, standardScales } from '@gull-pane/core/camera/scale';
import { readScale } from '@gull-pane/core/typed/typed-number';
import { scaleText } from '../basics/figures';
import type { Parts } from '../actions/action';
import { FigureField } from '../controls/figure-field';
import { unitsOfScreenPx } from '../words/figure-style';
import { usePreferences } from '../store/preferences-store';

/** Length of the bar that is held against a ruler, mm. */
const BAR_MM = 100;

/** Exact scales: those of the standard, a typed one, and the measure of the screen that makes them true. */
export function ScalePanel({
  target,
  onDone,
}: {
  readonly target: Parts<'pane' | 'drawing'>;
  readonly onDone: () => void;
}): ReactElement {
  const [typed, setTyped] = useState('');
  const [isMeasuring, setMeasuring] = useState(false);
  const read = typed.trim() === '' ? null : readScale(typed);
  const denominator = read && 'value' in read ? read.value : null;
  const go = (to: number): void => {
    const mmPerPx = unitsOfScreenPx(target.drawing);
    target.pane.getState().travel((from, _, limits) => atScale(from, to, limits, mmPerPx));
    onDone();
  };
  if (isMeasuring) return <ScreenMeasure onDone={() => setMeasuring(false)} />;
  return (
    <div className="foot-panel">
      <div className="scale-grid" role="group" aria-label="Standard scales">
        {standardScales.map((scale) => (
          <Button key={scale} size="small" onClick={() => go(scale)}>
            {scaleText(scale)}
          </Button>
        ))}
      </div>
      <div className="foot-panel-row">
        <Input
          aria-label="Any scale"
          placeholder="1:75"
          autoFocus
          value={typed}
          status={read && denominator === null ? 'error' : ''}
          aria-invalid={read !== null && denominator === null}
          onChange={(event) => setTyped(event.target.value)}
          onPressEnter={() => {
            if (denominator !== null) go(denominator);
          }}
        />
        <Button type="primary" disabled={denominator === null} onClick={() => go(denominator!)}>
          Set scale
        </Button>
      </div>
      {read && (
        <p className="muted" role={denominator === null ? 'alert' : 'status'}>
          {'trouble' in read ? read.trouble : `That is ${scaleText(read.value)}.`}
        </p>
      )}
      <Button type="link" size="small" onClick={() => setMeasuring(true)}>
        Measure this screen, so that 1 mm is 1 mm
      </Button>
    </div>
  );
}

/** The screen is measured with a ruler or by its size. */
function ScreenMeasure({ onDone }: { readonly onDone: () => void }): ReactElement {
  const mmPerPx = usePreferences((state) => state.mmPerPx);
  const set = usePreferences((state) => state.set);
  const [inches, setInches] = useState<number | null>(null);
  const widthPx = BAR_MM / mmPerPx;
  return (
    <div className="foot-panel screen-measure">
      <p>Hold a ruler against the bar and drag until it is 100 mm long, or type the screen’s diagonal.</p>
      <div className="measure-bar" style={{ width: widthPx }}>
        100 mm
      </div>
      <Slider
        ariaLabelForHandle="Length of the bar"
        min={150}
        max={900}
        step={0.5}
        value={widthPx}
        tooltip={{ open: false }}
        onChange={(value) => set({ mmPerPx: BAR_MM / value })}
      />
      <div className="foot-panel-row">
        <FigureField
          label="Diagonal of the screen"
          placeholder="27"
          suffix="inch"
          min={3}
          max={200}
          value={inches}
          onSet={(inch) => {
            setInches(inch);
            set({ mmPerPx: mmPerPxOfScreen(inch, window.screen.width, window.screen.height) });
          }}
        />
        <Button onClick={() => set({ mmPerPx: MM_PER_CSS_PX })}>As the browser says</Button>
      </div>
      <Button type="primary" onClick={onDone}>
        Done
      </Button>
    </div>
  );
}
