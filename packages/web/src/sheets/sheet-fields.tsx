import { Button, Checkbox, Input, Radio, Select } from 'antd';
import { Expand, Plus, Trash2 } from 'lucide-react';
import type { ReactElement } from 'react';
import { formatScale, standardScales } from '@gull-pane/core/camera/scale';
import {
  LEAST_SIDE_MM,
  MOST_SIDE_MM,
  paperNameOf,
  paperNames,
  paperSize,
  type PaperName,
} from '@gull-pane/core/sheets/paper';
import { readDegrees, readScale } from '@gull-pane/core/typed/typed-number';
import {
  LEAST_DENOMINATOR,
  MOST_DENOMINATOR,
  MOST_FRAMES,
  type PaperSheetDto,
  type SheetFrameDto,
  type StripFieldsDto,
} from '@gull-pane/protocol/sheet-sets';
import { FigureField } from '../controls/figure-field';

interface SheetFieldsProps {
  readonly sheet: PaperSheetDto;
  readonly frame: number;
  readonly fields: StripFieldsDto;
  readonly layers: readonly string[];
  readonly onSheet: (sheet: PaperSheetDto, what: string) => void;
  readonly onFrame: (frame: SheetFrameDto, what: string) => void;
  readonly onFields: (fields: StripFieldsDto) => void;
  readonly onPaper: (paper: PaperSheetDto['paper']) => void;
  /** Puts all of the drawing into the frame. */
  readonly onFit: () => void;
  readonly onAddFrame: () => void;
  readonly onRemoveFrame: () => void;
}

const OWN = 'Own size';
const DEGREES = 180 / Math.PI;

/** What a sheet is made of: its paper, its view, what its strip says. */
export function SheetFields(props: SheetFieldsProps): ReactElement {
  const { sheet, fields, onFields } = props;
  const frame = sheet.frames[props.frame];
  const field = (key: keyof StripFieldsDto, label: string): ReactElement => (
    <TextField label={label} value={fields[key]} onSet={(text) => onFields({ ...fields, [key]: text })} />
  );
  return (
    <div className="sheet-fields">
      <section aria-labelledby="sheet-paper-head">
        <h2 id="sheet-paper-head">Sheet</h2>
        <TextField
          label="Name"
          value={sheet.name}
          isNeeded
          onSet={(name) => props.onSheet({ ...sheet, name }, 'sheet renamed')}
        />
        <PaperChoice sheet={sheet} onPaper={props.onPaper} />
      </section>
      {frame ? (
        <ViewFields {...props} view={frame} />
      ) : (
        <section aria-labelledby="sheet-view-head">
          <h2 id="sheet-view-head">View</h2>
          <p className="muted">This sheet shows nothing yet.</p>
          <Button icon={<Plus size={14} aria-hidden />} onClick={props.onAddFrame}>
            Add a view
          </Button>
        </section>
      )}
      <section aria-labelledby="sheet-strip-head">
        <h2 id="sheet-strip-head">On every sheet</h2>
        {field('project', 'Project')}
        {field('title', 'Title')}
        <div className="sheet-pair">
          {field('number', 'Number')}
          {field('revision', 'Revision')}
        </div>
        <div className="sheet-pair">
          {field('author', 'Drawn by')}
          {field('date', 'Date')}
        </div>
      </section>
    </div>
  );
}

function PaperChoice({ sheet: { paper }, onPaper }: Pick<SheetFieldsProps, 'sheet' | 'onPaper'>): ReactElement {
  const name = paperNameOf(paper);
  const isUpright = paper.heightMm > paper.widthMm;
  const side = (key: 'widthMm' | 'heightMm', label: string): ReactElement => (
    <Labelled label={label}>
      <FigureField
        label={label}
        value={paper[key]}
        min={LEAST_SIDE_MM}
        max={MOST_SIDE_MM}
        step={10}
        suffix="mm"
        onSet={(mm) => onPaper({ ...paper, [key]: mm })}
      />
    </Labelled>
  );
  return (
    <>
      <label className="sheet-field">
        <span>Paper</span>
        <Select
          aria-label="Paper"
          value={name ?? OWN}
          options={[...paperNames, OWN].map((one) => ({ value: one, label: one }))}
          onChange={(chosen: PaperName | typeof OWN) => {
            if (chosen === OWN) onPaper({ widthMm: paper.widthMm + 10, heightMm: paper.heightMm });
            else onPaper(paperSize(chosen, isUpright));
          }}
        />
      </label>
      <Radio.Group
        aria-label="How the paper lies"
        optionType="button"
        size="small"
        value={isUpright}
        options={[
          { value: false, label: 'Lying' },
          { value: true, label: 'Upright' },
        ]}
        onChange={() => onPaper({ widthMm: paper.heightMm, heightMm: paper.widthMm })}
      />
      {!name && (
        <div className="sheet-pair">
          {side('widthMm', 'Width')}
          {side('heightMm', 'Height')}
        </div>
      )}
    </>
  );
}

function ViewFields(props: SheetFieldsProps & { readonly view: SheetFrameDto }): ReactElement {
  const { sheet, view: frame, layers, onFrame } = props;
  const { view, shows } = frame;
  const standard = standardScales.filter((scale) => scale >= 1);
  const hidden = new Set(shows.hiddenLayers);
  const count = sheet.frames.length;
  return (
    <section aria-labelledby="sheet-view-head">
      <h2 id="sheet-view-head">{count > 1 ? `View ${props.frame + 1} of ${count}` : 'View'}</h2>
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
          All of the drawing
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

/** The label of a field that says its name itself. */
function Labelled({ label, children }: { readonly label: string; readonly children: ReactElement }): ReactElement {
  return (
    <div className="sheet-field">
      <span aria-hidden>{label}</span>
      {children}
    </div>
  );
}

/** What is a millionth of a degree off a round figure is shown round. */
const roundDegrees = (rad: number): number => Number((rad * DEGREES).toFixed(6));

/** @param isNeeded an empty text is not taken */
function TextField({
  label,
  value,
  isNeeded = false,
  onSet,
}: {
  readonly label: string;
  readonly value: string;
  readonly isNeeded?: boolean;
  readonly onSet: (text: string) => void;
}): ReactElement {
  return (
    <label className="sheet-field">
      <span>{label}</span>
      <Input
        key={value}
        defaultValue={value}
        maxLength={120}
        onBlur={({ currentTarget }) => {
          const text = currentTarget.value.trim();
          if (text !== value && (text !== '' || !isNeeded)) onSet(text);
        }}
        onPressEnter={({ currentTarget }) => currentTarget.blur()}
      />
    </label>
  );
}
