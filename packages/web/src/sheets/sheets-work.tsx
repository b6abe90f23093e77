import { Button, Modal, Select } from 'antd';
import { ArrowLeft, FilePlus2 } from 'lucide-react';
import { useEffect, useRef, useState, type ReactElement } from 'react';
import { Link } from 'react-router';
import { useStore } from 'zustand';
import { blockNames, blockSize } from '@gull-pane/core/sheets/block-parts';
import { legendRows } from '@gull-pane/core/sheets/legend';
import { viewAreaOf } from '@gull-pane/core/sheets/sheet';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { ChangeEvent, EventsBegin } from '@gull-pane/protocol/events';
import type { MarkDto } from '@gull-pane/protocol/marks';
import type { RevisionDto } from '@gull-pane/protocol/revisions';
import { MOST_SHEETS, type PaperSheetDto, type SheetFrameDto, type SheetSetDto } from '@gull-pane/protocol/sheet-sets';
import { TopBar } from '../bar/top-bar';
import { Notice } from '../controls/notice';
import type { DrawingContent } from '../store/drawing-store';
import { useSaver } from '../store/saver';
import type { SheetSetsStore } from '../store/sheet-sets-store';
import { BeginSet } from './begin-set';
import { FramePictures } from './frame-pictures';
import { firstBlock, firstFields, firstShows, firstSight, sheetOf, viewOfAll } from './lay-out';
import { PaperView } from './paper-view';
import { SetActs } from './set-acts';
import { SheetFields } from './sheet-fields';
import { SheetList } from './sheet-list';
import './sheets.css';

export interface LoadedSheets {
  readonly content: DrawingContent;
  readonly cards: readonly CardDto[];
  readonly revisions: readonly RevisionDto[];
  readonly marks: readonly MarkDto[];
  readonly store: SheetSetsStore;
}

/** A drawing's sets of sheets: chosen, laid out, saved as PDF, printed. */
export function SheetsWork({ loaded }: { readonly loaded: LoadedSheets }): ReactElement {
  const { content, cards, revisions, store } = loaded;
  const { drawing } = content;
  const sets = useStore(store, (state) => state.sets) ?? [];
  const [chosenId, setChosenId] = useState<string | null>(null);
  const [isBeginning, setBeginning] = useState(false);
  useNews(store, drawing.id);
  const set = isBeginning ? null : (sets.find(({ id }) => id === chosenId) ?? sets[0] ?? null);
  const begin = (name: string, sheets: readonly PaperSheetDto[]): void => {
    const fields = firstFields(drawing, new Date().toLocaleDateString('en-CA'));
    setChosenId(store.getState().begin({ name, fields, sheets: [...sheets] }));
    setBeginning(false);
  };
  return (
    <>
      <Bar content={content}>
        {sets.length > 0 && (
          <Select
            aria-label="Set of sheets"
            className="set-choice"
            value={set?.id ?? ''}
            options={[
              ...sets.map(({ id, name }) => ({ value: id, label: name })),
              ...(set ? [] : [{ value: '', label: 'A new set' }]),
            ]}
            onChange={(id) => {
              setBeginning(false);
              setChosenId(id);
            }}
          />
        )}
        {set && <SetActs set={set} store={store} drawingId={drawing.id} onNew={() => setBeginning(true)} />}
      </Bar>
      {set ? (
        <SetWork key={set.id} set={set} loaded={loaded} />
      ) : (
        <main className="sheets-begin">
          <BeginSet of={content} cards={cards} revisions={revisions} onBegin={begin} />
        </main>
      )}
      <Conflicts store={store} />
    </>
  );
}

function Bar({
  content,
  children,
}: {
  readonly content: DrawingContent;
  readonly children?: React.ReactNode;
}): ReactElement {
  return (
    <TopBar>
      <Link className="sheets-back" to={`/d/${content.drawing.id}`}>
        <ArrowLeft size={16} aria-hidden />
        <span>{content.drawing.name}</span>
      </Link>
      {children}
    </TopBar>
  );
}

/** One set: its sheets, the one that is worked on, what it is made of. */
function SetWork({ set, loaded }: { readonly set: SheetSetDto; readonly loaded: LoadedSheets }): ReactElement {
  const { content, marks, revisions, store } = loaded;
  const { drawing } = content;
  const [index, setIndex] = useState(0);
  const [frame, setFrame] = useState(0);
  const [pictures] = useState(() => new FramePictures(content));
  useEffect(() => pictures.attach(), [pictures]);
  const at = Math.min(index, set.sheets.length - 1);
  const sheet = set.sheets[at];
  const change = (sheets: PaperSheetDto[], what: string): void =>
    void store.getState().change(set.id, { sheets }, what);
  const changeSheet = (changed: PaperSheetDto, what: string): void =>
    change(
      set.sheets.map((one, k) => (k === at ? changed : one)),
      what,
    );
  const changeFrame = (which: number, changed: SheetFrameDto, what: string): void => {
    if (!sheet) return;
    // what stands elsewhere on the paper, or shows something else, doesn't go on where it did
    const isMoved = what !== 'layers';
    const frames = sheet.frames.map((one, k) => (k === which ? changed : one));
    changeSheet({ ...sheet, frames, matchLines: isMoved ? [] : sheet.matchLines }, what);
  };
  const choose = (next: number): void => {
    setIndex(next);
    setFrame(0);
  };
  const own = Math.min(frame, (sheet?.frames.length ?? 1) - 1);
  const layers = [...new Set(content.layers.map(({ name }) => name))];
  const holding = content.layers.filter(({ support }) => support.length > 0);
  const parts = {
    sheets: set.sheets,
    fields: set.fields,
    unit: drawing.unit,
    legendOf: (which: number) =>
      legendRows(
        set.sheets[which]!.frames.map(({ shows }) => shows),
        holding,
        marks,
      ),
  };
  return (
    <main className="sheets-work">
      <h1 className="unseen">{`Sheets of ${content.drawing.name}: ${set.name}`}</h1>
      <aside aria-label="Sheets of the set">
        <SheetList
          sheets={set.sheets}
          chosen={at}
          onChoose={choose}
          onMove={(from, to) => {
            const sheets = [...set.sheets];
            sheets.splice(to, 0, ...sheets.splice(from, 1));
            change(
              renumbered(sheets, (k) => (k === from ? to : k === to ? from : k)),
              'sheet moved',
            );
            choose(to);
          }}
          onRemove={(gone) => {
            const sheets = set.sheets.filter((_, k) => k !== gone);
            change(
              renumbered(sheets, (k) => (k === gone ? null : k > gone ? k - 1 : k)),
              'sheet deleted',
            );
            choose(Math.max(gone - 1, 0));
          }}
        />
        {set.sheets.length < MOST_SHEETS && (
          <Button
            block
            icon={<FilePlus2 size={15} aria-hidden />}
            onClick={() => {
              const paper = sheet?.paper ?? { widthMm: 420, heightMm: 297 };
              const added = sheetOf(
                `Sheet ${set.sheets.length + 1}`,
                paper,
                viewOfAll(content, paper),
                firstShows(content.layers),
              );
              change([...set.sheets, added], 'sheet added');
              choose(set.sheets.length);
            }}
          >
            Add a sheet
          </Button>
        )}
      </aside>
      {sheet ? (
        <PaperView
          content={parts}
          index={at}
          pictures={pictures}
          chosen={own}
          onChoose={setFrame}
          onChange={changeFrame}
          onBlocks={(blocks, what) => changeSheet({ ...sheet, blocks }, what)}
        />
      ) : (
        <div className="sheet-desk">
          <Notice title="No sheets yet">
            <p>Add one on the left.</p>
          </Notice>
        </div>
      )}
      {sheet && (
        <SheetFields
          sheet={sheet}
          frame={own}
          fields={set.fields}
          layers={layers}
          drawing={drawing}
          revisions={revisions}
          onSheet={changeSheet}
          onFrame={(changed, what) => changeFrame(own, changed, what)}
          onFields={(fields) => void store.getState().change(set.id, { fields }, 'strip')}
          onPaper={(paper) => changeSheet(onPaper(sheet, paper), 'paper')}
          onBlock={(kind, isThere) => {
            const others = (sheet.blocks ?? []).filter((block) => block.kind !== kind);
            const added = isThere ? [firstBlock(kind, sheet.paper, blockSize(kind, parts, at))] : [];
            changeSheet(
              { ...sheet, blocks: [...others, ...added] },
              `${blockNames[kind].toLowerCase()} ${isThere ? 'added' : 'deleted'}`,
            );
          }}
          onFit={() => {
            const shown = sheet.frames[own]!;
            const sight = shown.view.solid && { ...shown.view.solid };
            const view = viewOfAll(content, sheet.paper, shown, sight, sight ? shown.view.bearingRad : 0);
            changeFrame(own, { ...shown, view }, drawing.kind === 'solid' ? 'all of the model' : 'all of the drawing');
          }}
          onSight={(direction) => {
            const shown = sheet.frames[own]!;
            changeFrame(
              own,
              { ...shown, view: viewOfAll(content, sheet.paper, shown, firstSight(direction)) },
              'direction',
            );
          }}
          onAddFrame={() => {
            const area = viewAreaOf(sheet.paper);
            const rect = {
              ...area,
              leftMm: area.leftMm + area.widthMm / 2,
              widthMm: area.widthMm / 2,
              heightMm: area.heightMm / 2,
            };
            const view = viewOfAll(content, sheet.paper, rect);
            const added = { ...rect, view, shows: firstShows(content.layers) };
            changeSheet({ ...sheet, frames: [...sheet.frames, added] }, 'view added');
            setFrame(sheet.frames.length);
          }}
          onRemoveFrame={() => {
            changeSheet({ ...sheet, frames: sheet.frames.filter((_, k) => k !== own) }, 'view deleted');
            setFrame(0);
          }}
        />
      )}
    </main>
  );
}

/** Match lines lead to the same sheets after these stand elsewhere. @param placeOf the new place; null if it has gone */
const renumbered = (sheets: readonly PaperSheetDto[], placeOf: (before: number) => number | null): PaperSheetDto[] =>
  sheets.map((sheet) => ({
    ...sheet,
    matchLines: sheet.matchLines.flatMap((line) => {
      const place = placeOf(line.sheet);
      return place === null ? [] : [{ ...line, sheet: place }];
    }),
  }));

/** A sheet on other paper: a single view fills it, several keep their places. */
function onPaper(sheet: PaperSheetDto, paper: PaperSheetDto['paper']): PaperSheetDto {
  const [only] = sheet.frames;
  const frames = sheet.frames.length === 1 ? [{ ...only!, ...viewAreaOf(paper) }] : sheet.frames;
  return { ...sheet, paper, frames, matchLines: [] };
}

/** Hears what other windows change. */
function useNews(store: SheetSetsStore, drawingId: string): void {
  useEffect(() => {
    const source = new EventSource('/api/events');
    let isFirst = true;
    source.addEventListener('begin', ({ data }: MessageEvent<string>) => {
      useSaver.getState().retry();
      // after a short absence what was missed follows; after a long one the sets are asked for anew
      if (!isFirst && !(JSON.parse(data) as EventsBegin).isComplete) void store.getState().load();
      isFirst = false;
    });
    source.addEventListener('change', (message: MessageEvent<string>) => {
      const event = JSON.parse(message.data) as ChangeEvent;
      const { heard, heardGone } = store.getState();
      if (event.kind === 'sheet-set' && event.set.drawingId === drawingId) heard(event.set);
      else if (event.kind === 'sheet-set-gone' && event.drawingId === drawingId) heardGone(event.id);
    });
    return () => source.close();
  }, [store, drawingId]);
}

/** Another window was faster: whose version counts is a choice. */
function Conflicts({ store }: { readonly store: SheetSetsStore }): ReactElement | null {
  const conflict = useStore(store, (state) => state.conflicts[0]);
  const mine = useRef<HTMLButtonElement>(null);
  if (!conflict) return null;
  const { id, name } = conflict.theirs;
  const settle = (takesMine: boolean): void => void store.getState().settle(id, takesMine);
  return (
    <Modal open title={`“${name}” was changed in another window`} footer={null} closable={false}>
      <p>Your change was made of an older version.</p>
      <div className="sheet-acts">
        <Button onClick={() => settle(false)}>Keep the other version</Button>
        <Button ref={mine} type="primary" onClick={() => settle(true)}>
          Take my change
        </Button>
      </div>
    </Modal>
  );
}
