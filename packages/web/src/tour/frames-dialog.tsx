import { Alert, Button, Checkbox, Modal, Progress, Select } from 'antd';
import { useRef, useState, type ReactElement } from 'react';
import { frameRates, frameTimes, type FrameRate } from '@gull-pane/core/tour/frames';
import type { Parts } from '../actions/action';
import { saveFile } from '../basics/save-file';
import { grouped } from '../basics/figures';
import type { TourPlan } from '../store/tour-plan';
import { writeFrames } from './write-frames';
import { spokenTime } from './times';

const sizes = [
  { widthPx: 640, heightPx: 360 },
  { widthPx: 1280, heightPx: 720 },
  { widthPx: 1920, heightPx: 1080 },
  { widthPx: 3840, heightPx: 2160 },
] as const;
/** With more frames than this it is said that it takes long. */
const MANY_FRAMES = 1500;

interface DialogProps {
  readonly target: Parts<'pane' | 'drawing' | 'seen'>;
  readonly plan: TourPlan;
  readonly onClose: () => void;
}

/** Writes a tour as numbered pictures, for any program that makes moving ones of them. */
export function FramesDialog({ target, plan, onClose }: DialogProps): ReactElement {
  const [size, setSize] = useState(1);
  const [framesPerS, setRate] = useState<FrameRate>(25);
  const [hasCaptions, setCaptions] = useState(true);
  const [made, setMade] = useState<number | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const work = useRef<AbortController | null>(null);
  const { timeline, tour } = plan;
  const count = frameTimes(timeline!.durationMs, framesPerS, timeline!.loops).length;
  const start = async (): Promise<void> => {
    const own = new AbortController();
    work.current = own;
    setTrouble(null);
    setMade(0);
    try {
      const wish = { size: sizes[size]!, framesPerS, hasCaptions };
      const zip = await writeFrames(target, plan, wish, own.signal, setMade);
      saveFile(`${tour.name}, ${framesPerS} frames a second.zip`, zip);
      onClose();
    } catch (error) {
      if (!own.signal.aborted) setTrouble(error instanceof Error ? error.message : String(error));
      setMade(null);
    }
  };
  const close = (): void => {
    work.current?.abort();
    onClose();
  };
  const isBusy = made !== null;
  return (
    <Modal open title="Write as numbered pictures" width={440} onCancel={close} footer={null} destroyOnHidden>
      <div className="frames-form">
        <p className="muted">Every frame is drawn in full and exactly at its time, however long that takes.</p>
        <label>
          Size
          <Select
            aria-label="Size of the pictures"
            disabled={isBusy}
            value={size}
            options={sizes.map(({ widthPx, heightPx }, value) => ({ value, label: `${widthPx} × ${heightPx} px` }))}
            onChange={setSize}
          />
        </label>
        <label>
          Rate
          <Select<FrameRate>
            aria-label="Frames a second"
            disabled={isBusy}
            value={framesPerS}
            options={frameRates.map((value) => ({ value, label: `${value} frames a second` }))}
            onChange={setRate}
          />
        </label>
        <Checkbox checked={hasCaptions} disabled={isBusy} onChange={(event) => setCaptions(event.target.checked)}>
          Write the captions into the pictures
        </Checkbox>
        <p>
          {grouped(count)} PNG files for {spokenTime(timeline!.durationMs)}, in one .zip.
          {count > MANY_FRAMES && ' That takes a while; a lower rate makes fewer.'}
        </p>
        {trouble !== null && <Alert type="error" title="The pictures can’t be made" description={trouble} showIcon />}
        {isBusy && <Progress percent={Math.floor((100 * made) / count)} aria-label="Pictures made" />}
        <div className="frames-acts">
          <Button onClick={close}>{isBusy ? 'Stop' : 'Cancel'}</Button>
          <Button type="primary" loading={isBusy} onClick={() => void start()}>
            {isBusy ? `${grouped(made)} of ${grouped(count)}` : 'Write them'}
          </Button>
        </div>
      </div>
    </Modal>
  );
}
