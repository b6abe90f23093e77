import { Button, Checkbox, Radio, Select } from 'antd';
import { Plus } from 'lucide-react';
import type { ReactElement } from 'react';
import { blockNames } from '@gull-pane/core/sheets/block-parts';
import { blockKinds } from '@gull-pane/core/sheets/sheet';
import {
  LEAST_SIDE_MM,
  MOST_SIDE_MM,
  paperNameOf,
  paperNames,
  paperSize,
  type PaperName,
} from '@gull-pane/core/sheets/paper';
import type { StripFieldsDto } from '@gull-pane/protocol/sheet-sets';
import { FigureField } from '../controls/figure-field';
import { RevisionNotes } from './revision-notes';
import type { SheetFieldsProps } from './sheet-fields-props';
import { Labelled, TextField } from './text-field';
import { ViewFields } from './view-fields';

const OWN = 'Own size';

/** What a sheet is made of: its paper, its view, what its strip says. */
export function SheetFields(props: SheetFieldsProps): ReactElement {
  const { sheet, fields, onFields } = props;
  const frame = sheet.frames[props.frame];
  const field = (key: Exclude<keyof StripFieldsDto, 'revisions'>, label: string): ReactElement => (
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
      <section aria-labelledby="sheet-blocks-head">
        <h2 id="sheet-blocks-head">Beside the views</h2>
        <div className="sheet-checks">
          {blockKinds.map((kind) => (
            <Checkbox
              key={kind}
              checked={(sheet.blocks ?? []).some((block) => block.kind === kind)}
              onChange={({ target }) => props.onBlock(kind, target.checked)}
            >
              {blockNames[kind]}
            </Checkbox>
          ))}
        </div>
      </section>
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
        <RevisionNotes notes={fields.revisions ?? []} onSet={(revisions) => onFields({ ...fields, revisions })} />
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
