import { Alert, Button, Modal, Select } from 'antd';
import { FileDown, FilePlus2, Printer, Trash2, Undo2 } from 'lucide-react';
import { useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import {
  LEAST_DPI,
  MOST_DPI,
  USUAL_DPI,
  sheetFormats,
  type PrintProgressDto,
  type SheetFormat,
  type SheetSetDto,
} from '@gull-pane/protocol/sheet-sets';
import { sheetSetsApi } from '../api/sheet-sets-api';
import { saveFile } from '../basics/save-file';
import { FigureField } from '../controls/figure-field';
import { SavingMark } from '../panes/saving-mark';
import { troubleOf, type Trouble } from '../store/drawings-store';
import type { SheetSetsStore } from '../store/sheet-sets-store';
import { printFile } from './print-file';

interface SetActsProps {
  readonly set: SheetSetDto;
  readonly store: SheetSetsStore;
  readonly drawingId: string;
  readonly onNew: () => void;
}

interface Running {
  readonly run: string;
  readonly call: AbortController;
}

/** Progress is asked for so often, ms. */
const ASK_MS = 500;
const hasPx = (format: SheetFormat): boolean => format === 'png' || format === 'tiff';

/** What is done with a whole set. */
export function SetActs({ set, store, drawingId, onNew }: SetActsProps): ReactElement {
  const undoes = useStore(store, (state) => state.undoes);
  const [format, setFormat] = useState<SheetFormat>('pdf');
  const [dpi, setDpi] = useState<number>(USUAL_DPI);
  const [running, setRunning] = useState<Running | null>(null);
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const write = async (as: SheetFormat, onFile: (file: Blob) => void): Promise<void> => {
    const own = { run: crypto.randomUUID(), call: new AbortController() };
    setRunning(own);
    setTrouble(null);
    try {
      const wanted = { format: as, run: own.run, ...(hasPx(as) ? { dpi } : {}) };
      const sheets = { fields: set.fields, sheets: set.sheets };
      onFile(await sheetSetsApi.print(drawingId, { ...sheets, ...wanted }, own.call.signal));
    } catch (error) {
      if (!own.call.signal.aborted) setTrouble(troubleOf(error));
    } finally {
      setRunning(null);
    }
  };
  const isZip = set.sheets.length > 1 && (format === 'svg' || format === 'png');
  const name = `${set.fields.title || set.name}.${isZip ? 'zip' : format}`;
  const isEmpty = set.sheets.length === 0;
  return (
    <>
      <Button
        type="text"
        icon={<Undo2 size={15} aria-hidden />}
        disabled={undoes === null}
        onClick={() => void store.getState().undo()}
      >
        {undoes === null ? 'Undo' : `Undo: ${undoes}`}
      </Button>
      <Button type="text" icon={<FilePlus2 size={15} aria-hidden />} onClick={onNew}>
        New set
      </Button>
      <Button
        type="text"
        aria-label={`Delete the set ${set.name}`}
        icon={<Trash2 size={15} aria-hidden />}
        onClick={() => void store.getState().remove(set.id)}
      />
      <SavingMark />
      <span className="sheets-out">
        {running ? (
          <WritingMark running={running} />
        ) : (
          <>
            <Button
              icon={<Printer size={15} aria-hidden />}
              disabled={isEmpty}
              onClick={() => void write('pdf', printFile)}
            >
              Print
            </Button>
            {hasPx(format) && (
              <FigureField
                className="sheets-dpi"
                label="Resolution"
                value={dpi}
                min={LEAST_DPI}
                max={MOST_DPI}
                step={10}
                suffix="dpi"
                onSet={(value) => setDpi(Math.round(value))}
              />
            )}
            <Select
              aria-label="Format"
              value={format}
              options={sheetFormats.map((one) => ({ value: one, label: one.toUpperCase() }))}
              onChange={setFormat}
            />
            <Button
              type="primary"
              icon={<FileDown size={15} aria-hidden />}
              disabled={isEmpty}
              onClick={() => void write(format, (file) => saveFile(name, file))}
            >
              {`Save as ${format.toUpperCase()}`}
            </Button>
          </>
        )}
      </span>
      {trouble && (
        <Modal open title={trouble.title} footer={null} onCancel={() => setTrouble(null)}>
          <Alert type="error" title={`${trouble.detail} ${trouble.hint}`.trim()} showIcon />
        </Modal>
      )}
    </>
  );
}

/** How far the writing has come, and a way to stop it. */
function WritingMark({ running: { run, call } }: { readonly running: Running }): ReactElement {
  const [progress, setProgress] = useState<PrintProgressDto | null>(null);
  useEffect(() => {
    let isOver = false;
    const timer = setInterval(() => {
      void sheetSetsApi.progress(run).then((told) => {
        if (!isOver && told) setProgress(told);
      });
    }, ASK_MS);
    return () => {
      isOver = true;
      clearInterval(timer);
    };
  }, [run]);
  const objects = progress && progress.objects > 0 ? `, ${progress.objects.toLocaleString('en')} objects` : '';
  return (
    <>
      <span role="status">
        {progress ? `Writing sheet ${progress.sheet} of ${progress.sheets}${objects} …` : 'Writing …'}
      </span>
      <Button onClick={() => call.abort()}>Cancel</Button>
    </>
  );
}
