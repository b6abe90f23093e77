import { Button, Checkbox, Select } from 'antd';
import { Expand, Plus, Trash2 } from 'lucide-react';
import type { ReactElement } from 'react';
import { isAlongAxis, standardDirections, standardOf } from '@gull-pane/core/camera/directions';
import { formatScale, standardScales } from '@gull-pane/core/camera/scale';
import { solidLooks } from '@gull-pane/core/solid/solid-looks';
import { readDegrees, readScale } from '@gull-pane/core/typed/typed-number';
import {
  LEAST_DENOMINATOR,
  LEAST_DPI,
  MOST_DENOMINATOR,
  MOST_DPI,
  MOST_FRAMES,
  USUAL_DPI,
  type SheetFrameDto,
} from '@gull-pane/protocol/sheet-sets';
import { FigureField } from '../controls/figure-field';
import { usePreferences } from '../store/preferences-store';
import { lookNames } from '../words/look-names';
import { revisionName } from './revision-name';
import type { SheetFieldsProps } from './sheet-fields-props';
import { Labelled, TextField } from './text-field';

const DEGREES = 180 / Math.PI;
/** Plan and elevations first: they are what goes to paper most. */
const directions = [
  ...standardDirections.filter(isAlongAxis),
  ...standardDirections.filter((one) => !isAlongAxis(one)),
];

interface ViewFieldsProps extends SheetFieldsProps {
  readonly view: SheetFrameDto;
}

/** What a view on a sheet shows, and how. */
export function ViewFields(props: ViewFieldsProps): ReactElement {
  const { sheet, view: frame, layers, onFrame, drawing } = props;
  const isSolid = drawing.kind === 'solid';
  const { view, shows } = frame;
  const standard = standardScales.filter((scale) => scale >= 1);
  const hidden = new Set(shows.hiddenLayers);
  const count = sheet.frames.length;
  return (
    <section aria-labelledby="sheet-view-head">
      <h2 id="sheet-view-head">{count > 1 ? `View ${props.frame + 1} of ${count}` : 'View'}</h2>
      <TextField
        key={props.frame}
        label="Caption"
        value={frame.title ?? ''}
        onSet={(title) => onFrame({ ...frame, title }, 'caption')}
      />
      {isSolid && <SolidFields frame={frame} onFrame={onFrame} onSight={props.onSight} />}
      <div className="sheet-pair">
        <Labelled label="Scale">
          <FigureField
            label="Scale"
            value={view.denominator}
            min={LEAST_DENOMINATOR}
            max={MOST_DENOMINATOR}
            read={readScale}
            write={formatScale}
            onSet={(denominator) => onFrame({ ...frame, view: { ...view, denominator } }, 'scale')}
          />
        </Labelled>
        <Labelled label="Turned by">
          <FigureField
            label="Turned by"
            value={roundDegrees(view.bearingRad)}
            read={readDegrees}
            suffix="°"
            onSet={(degrees) => onFrame({ ...frame, view: { ...view, bearingRad: degrees / DEGREES } }, 'view turned')}
          />
        </Labelled>
      </div>
      <div className="sheet-scales" role="group" aria-label="Standard scales">
        {standard.map((denominator) => (
          <Button
            key={denominator}
            size="small"
            type={denominator === view.denominator ? 'primary' : 'default'}
            aria-pressed={denominator === view.denominator}
            onClick={() => onFrame({ ...frame, view: { ...view, denominator } }, 'scale')}
          >
            {formatScale(denominator)}
          </Button>
        ))}
      </div>
      <div className="sheet-acts">
        <Button size="small" icon={<Expand size={14} aria-hidden />} onClick={props.onFit}>
          {isSolid ? 'All of the model' : 'All of the drawing'}
        </Button>
        {count < MOST_FRAMES && (
          <Button size="small" icon={<Plus size={14} aria-hidden />} onClick={props.onAddFrame}>
            Add a view
          </Button>
        )}
        {count > 1 && (
          <Button size="small" icon={<Trash2 size={14} aria-hidden />} onClick={props.onRemoveFrame}>
            Delete this view
          </Button>
        )}
      </div>
      <OnTopFields frame={frame} drawing={drawing} revisions={props.revisions} onFrame={onFrame} />
      <details>
        <summary>{`Layers on paper: ${layers.length - hidden.size} of ${layers.length}`}</summary>
        <ul className="sheet-layers">
          {layers.map((name) => (
            <li key={name}>
              <Checkbox
                checked={!hidden.has(name)}
                onChange={({ target }) => {
                  const hiddenLayers = target.checked
                    ? shows.hiddenLayers.filter((one) => one !== name)
                    : [...shows.hiddenLayers, name];
                  onFrame({ ...frame, shows: { ...shows, hiddenLayers } }, 'layers');
                }}
              >
                {name}
              </Checkbox>
            </li>
          ))}
        </ul>
      </details>
    </section>
  );
}

/** What is a millionth of a degree off a round figure is shown round. */
const roundDegrees = (rad: number): number => Number((rad * DEGREES).toFixed(6));

/** Looks that go out as pictures. */
const isPicture = (look: string): boolean => !['lines', 'hidden-line', 'hidden-dashed'].includes(look);

/** From where a model is seen, and how it looks. */
function SolidFields({
  frame,
  onFrame,
  onSight,
}: {
  readonly frame: SheetFrameDto;
} & Pick<SheetFieldsProps, 'onFrame' | 'onSight'>): ReactElement {
  const { view, shows } = frame;
  const look = shows.look ?? 'hidden-line';
  const direction = view.solid && view.solid.eyeDistance === undefined ? standardOf(view.solid) : null;
  const clips = shows.clips ?? [];
  const cuts = clips.filter(({ isOn }) => isOn).length;
  return (
    <>
      <div className="sheet-pair">
        <label className="sheet-field">
          <span>Seen</span>
          <Select
            aria-label="Seen"
            value={direction?.name ?? ''}
            options={[
              ...(direction ? [] : [{ value: '', label: view.solid?.eyeDistance ? 'In perspective' : 'At an angle' }]),
              ...directions.map(({ name }) => ({ value: name, label: name })),
            ]}
            onChange={(name) => {
              const chosen = directions.find((one) => one.name === name);
              if (chosen) onSight(chosen);
            }}
          />
        </label>
        <label className="sheet-field">
          <span>Look</span>
          <Select
            aria-label="Look"
            value={look}
            options={solidLooks.map((one) => ({ value: one, label: lookNames[one] }))}
            onChange={(chosen) => onFrame({ ...frame, shows: { ...shows, look: chosen } }, 'look')}
          />
        </label>
      </div>
      {isPicture(look) && (
        <Labelled label="Picture">
          <FigureField
            label="Picture"
            value={shows.dpi ?? USUAL_DPI}
            min={LEAST_DPI}
            max={MOST_DPI}
            step={10}
            suffix="dpi"
            onSet={(dpi) => onFrame({ ...frame, shows: { ...shows, dpi: Math.round(dpi) } }, 'resolution')}
          />
        </Labelled>
      )}
      {clips.length > 0 && (
        <Checkbox
          checked={cuts > 0}
          onChange={({ target }) =>
            onFrame(
              { ...frame, shows: { ...shows, clips: clips.map((clip) => ({ ...clip, isOn: target.checked })) } },
              'cuts',
            )
          }
        >
          {`Cut open by ${clips.length} ${clips.length === 1 ? 'volume' : 'volumes'}`}
        </Checkbox>
      )}
    </>
  );
}

/** What lies on top of a view: marks, changes, what hasn't been seen yet. */
function OnTopFields({
  frame,
  drawing,
  revisions,
  onFrame,
}: { readonly frame: SheetFrameDto } & Pick<SheetFieldsProps, 'drawing' | 'revisions' | 'onFrame'>): ReactElement {
  const { shows } = frame;
  const person = usePreferences((state) => state.person);
  const earlier = revisions.filter(({ number }) => number < drawing.revision);
  const { changesSince, unseenBy, ...rest } = shows;
  const set = (change: Partial<SheetFrameDto['shows']>, without: 'changesSince' | 'unseenBy' | null = null): void => {
    const kept = {
      ...rest,
      ...(changesSince === undefined || without === 'changesSince' ? {} : { changesSince }),
      ...(unseenBy === undefined || without === 'unseenBy' ? {} : { unseenBy }),
    };
    onFrame({ ...frame, shows: { ...kept, ...change } }, 'layers');
  };
  return (
    <div className="sheet-checks" role="group" aria-label="On top">
      <Checkbox checked={shows.marksOff !== true} onChange={({ target }) => set({ marksOff: !target.checked })}>
        Marks
      </Checkbox>
      <Checkbox
        checked={unseenBy !== undefined}
        onChange={({ target }) => (target.checked ? set({ unseenBy: person }) : set({}, 'unseenBy'))}
      >
        {`Not seen yet${unseenBy ? ` by ${unseenBy}` : ''}`}
      </Checkbox>
      {earlier.length > 0 && (
        <span className="sheet-since">
          <Checkbox
            checked={changesSince !== undefined}
            onChange={({ target }) =>
              target.checked ? set({ changesSince: earlier[0]!.number }) : set({}, 'changesSince')
            }
          >
            Changes since
          </Checkbox>
          <Select
            size="small"
            aria-label="Changes since"
            disabled={changesSince === undefined}
            value={changesSince ?? earlier[0]!.number}
            options={earlier.map(({ number }) => ({ value: number, label: revisionName(revisions, number) }))}
            onChange={(number) => set({ changesSince: number })}
          />
        </span>
      )}
    </div>
  );
}
