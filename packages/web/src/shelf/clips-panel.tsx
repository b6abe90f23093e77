import { Button, Segmented, Switch } from 'antd';
import { NothingYet } from '../controls/nothing-yet';
import { Trash2 } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { facesOf, localOf, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { aboutAxis, multiply, rotate } from '@gull-pane/core/geometry/quaternion';
import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import { along3, type Vec3 } from '@gull-pane/core/geometry/vec';
import { readDegrees, readLength } from '@gull-pane/core/typed/typed-number';
import { clipBoxAction, faceBoxAction, sectionAction } from '../actions/clip-actions';
import type { Action, ActionTarget, Parts } from '../actions/action';
import { ActionTip } from '../actions/action-tip';
import { FigureField } from '../controls/figure-field';
import './clips.css';

/** What cuts this pane open, with all its numbers. */
export function ClipsPanel({ target }: { readonly target: ActionTarget }): ReactElement {
  const { chosen, refusal } = useStore(target.clips);
  const volumes = useStore(target.pane, ({ shown }) => shown.clips);
  const add = (action: Action, text: string): ReactElement => (
    <ActionTip name={action.name} sentence={action.sentence} actionId={action.id} placement="bottom">
      <Button size="small" icon={<action.icon size={14} aria-hidden />} onClick={() => action.run(target)}>
        {text}
      </Button>
    </ActionTip>
  );
  return (
    <div className="clips-panel">
      <div className="clips-add">
        {add(clipBoxAction, 'Box')}
        {add(faceBoxAction, 'Box by face')}
        {add(sectionAction, 'Section')}
      </div>
      {refusal !== null && (
        <p role="alert" className="stance-refusal">
          {refusal}
        </p>
      )}
      {volumes.length === 0 ? (
        <NothingYet>Nothing is cut. A clip box closes around what is picked; a section cuts along a face.</NothingYet>
      ) : (
        <ul>
          {volumes.map((volume) => (
            <Clip key={volume.id} target={target} volume={volume} isChosen={volume.id === chosen} />
          ))}
        </ul>
      )}
    </div>
  );
}

function Clip({
  target: { clips, drawing },
  volume,
  isChosen,
}: {
  readonly target: Parts<'drawing' | 'clips'>;
  readonly volume: ClipVolume;
  readonly isChosen: boolean;
}): ReactElement {
  const { id, name, kind, keeps, isOn } = volume;
  const { change, choose, remove } = clips.getState();
  const { unit } = useStore(drawing, (state) => state.drawing);
  return (
    <li className="clip" data-chosen={isChosen} aria-label={name}>
      <div className="clip-row">
        <Switch size="small" checked={isOn} aria-label={`${name} cuts`} onChange={(on) => change(id, { isOn: on })} />
        <button
          type="button"
          className="clip-name"
          aria-pressed={isChosen}
          onClick={() => choose(isChosen ? null : id)}
        >
          {name}
        </button>
        <button type="button" className="icon-button" aria-label={`Delete ${name}`} onClick={() => remove(id)}>
          <Trash2 size={15} aria-hidden />
        </button>
      </div>
      {isChosen && (
        <>
          <div className="clip-figure">
            Keeps
            <Segmented
              size="small"
              aria-label="Keeps"
              value={keeps}
              onChange={(value: 'inside' | 'outside') => change(id, { keeps: value })}
              options={
                kind === 'box'
                  ? [
                      { value: 'inside', label: 'Inside' },
                      { value: 'outside', label: 'Outside' },
                    ]
                  : [
                      { value: 'inside', label: 'Far side' },
                      { value: 'outside', label: 'Near side' },
                    ]
              }
            />
          </div>
          {kind === 'box' ? (
            <BoxNumbers {...{ volume, change, unit }} />
          ) : (
            <PlaneNumbers key={id} {...{ volume, change, unit }} />
          )}
        </>
      )}
    </li>
  );
}

interface NumbersProps {
  /** Of the drawing. */
  readonly unit: DrawingUnit;
  readonly volume: ClipVolume;
  readonly change: (id: number, change: Partial<Omit<ClipVolume, 'id' | 'kind'>>) => void;
}

function Figure({
  label,
  value,
  onChange,
  unit,
  min,
}: {
  readonly label: string;
  readonly value: number;
  readonly onChange: (value: number) => void;
  readonly unit: DrawingUnit | '°';
  readonly min?: number;
}): ReactElement {
  return (
    <label className="clip-figure">
      {label}
      <FigureField
        label={label}
        value={Math.round(value * 1000) / 1000}
        read={(text) => (unit === '°' ? readDegrees(text) : readLength(text, unit))}
        {...(unit === 'none' ? {} : { suffix: unit })}
        {...(min === undefined ? {} : { min })}
        onSet={onChange}
      />
    </label>
  );
}

const axes = ['x', 'y', 'z'] as const;
const middles = { x: 'Middle E', y: 'Middle N', z: 'Middle Z' };
const sizes = { x: 'Width', y: 'Depth', z: 'Height' };

function BoxNumbers({ volume, change, unit }: NumbersProps): ReactElement {
  const { id, centre, half, orientation } = volume;
  const ahead = rotate(orientation, { x: 1, y: 0, z: 0 });
  const turn = (Math.atan2(ahead.y, ahead.x) * 180) / Math.PI;
  return (
    <div className="clip-figures">
      {axes.map((axis) => (
        <Figure
          key={middles[axis]}
          label={middles[axis]}
          unit={unit}
          value={centre[axis]}
          onChange={(value) => change(id, { centre: { ...centre, [axis]: value } })}
        />
      ))}
      {axes.map((axis) => (
        <Figure
          key={sizes[axis]}
          label={sizes[axis]}
          unit={unit}
          value={2 * half[axis]}
          min={Number.MIN_VALUE}
          onChange={(value) => change(id, { half: { ...half, [axis]: value / 2 } })}
        />
      ))}
      <Figure
        label="Turn"
        unit="°"
        value={turn}
        onChange={(degrees) => {
          const more = aboutAxis({ x: 0, y: 0, z: 1 }, ((degrees - turn) * Math.PI) / 180);
          change(id, { orientation: multiply(more, orientation) });
        }}
      />
    </div>
  );
}

/** A plane is moved along its normal, from where it was cut. */
function PlaneNumbers({ volume, change, unit }: NumbersProps): ReactElement {
  const [face] = facesOf(volume);
  const { id, centre } = volume;
  const heightOf = (point: Vec3): number => -localOf(volume, point).z;
  // counted from where it stood when it was chosen: a new section's from its face
  const [stood] = useState(centre);
  const offset = heightOf(stood);
  return (
    <div className="clip-figures">
      <Figure
        label="Offset"
        unit={unit}
        value={offset}
        onChange={(value) => change(id, { centre: along3(centre, face!.normal, value - offset) })}
      />
    </div>
  );
}
