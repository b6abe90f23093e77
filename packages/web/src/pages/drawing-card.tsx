import { Button, Input, Modal, Progress } from 'antd';
import { Ellipsis } from 'lucide-react';
import { useEffect, useState, type ReactElement } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link } from 'react-router';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import { hasEnded, type JobDto, type JobProgressDto } from '@gull-pane/protocol/jobs';
import { useMay } from '../api/access-store';
import type { MenuItems } from '../controls/drop-menu';
import { useFileChoice } from '../controls/file-choice';
import { MenuButton } from '../controls/menu-button';
import { useNotes } from '../store/notes-store';
import { troubleOf, useDrawings } from '../store/drawings-store';
import { bytesText, grouped, whenText } from '../basics/figures';

/** One drawing: picture, name, size, date, the state of its import, and what can be done with it. */
export function DrawingCard({ drawing }: { readonly drawing: DrawingDto }): ReactElement {
  const job = useDrawings((state) => state.jobs[drawing.id]);
  const [isRenaming, setRenaming] = useState(false);
  const hasContent = drawing.revision > 0;
  const isImporting = drawing.jobId !== null;
  const mayManage = useMay('manage');
  const { sendAnew } = useDrawings();
  const { getRootProps, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    noDrag: !mayManage,
    // the page around takes what is dropped beside the cards
    noDragEventsBubbling: true,
    onDrop: (files) => {
      if (isImporting) {
        useNotes.getState().tell('failed', `“${drawing.name}” is still being imported: drop the file again after that`);
        return;
      }
      void import('./joined-files').then(async ({ joinedFiles }) => {
        const [file] = (await joinedFiles(files)).drawings;
        if (file) await sendAnew(drawing, file);
      });
    },
  });
  return (
    <li {...getRootProps({ className: 'card', role: 'listitem', 'aria-label': drawing.name })} data-over={isDragActive}>
      {isDragActive && (
        <p className="card-drop" role="status">
          Its next revision
        </p>
      )}
      {hasContent ? (
        <img
          className="card-picture"
          src={`/api/drawings/${drawing.id}/picture.png?r=${drawing.revision}`}
          alt={`Picture of ${drawing.name}`}
        />
      ) : (
        <div className="card-picture card-blank">
          {isImporting ? 'The picture comes with the import' : 'Not imported'}
        </div>
      )}
      <div className="card-body">
        <div className="card-title">
          {isRenaming ? (
            <NameField drawing={drawing} onEnd={() => setRenaming(false)} />
          ) : hasContent ? (
            <Link to={`/d/${drawing.id}`}>{drawing.name}</Link>
          ) : (
            <strong>{drawing.name}</strong>
          )}
          {mayManage && <CardMenu drawing={drawing} onRename={() => setRenaming(true)} />}
        </div>
        {isImporting ? <ImportProgress drawing={drawing} job={job} /> : <Facts drawing={drawing} />}
      </div>
    </li>
  );
}

function Facts({ drawing }: { readonly drawing: DrawingDto }): ReactElement {
  const { error, isCancelled, counts, sourceBytes, updatedAt, revision, warnings, sheets } = drawing;
  const notes = warnings.filter(({ code }) => code === 'frame');
  const leftOut = warnings.filter(({ code }) => code !== 'frame');
  return (
    <>
      {error && (
        <p role="alert">
          <span className="card-error">{revision > 0 ? `Last import: ${error.title}` : error.title}.</span>{' '}
          {error.detail} <span className="muted">{error.hint}</span>
        </p>
      )}
      {error && revision === 0 && <ImportAgain drawing={drawing} />}
      {isCancelled && <Cancelled drawing={drawing} />}
      {revision > 0 && (
        <p className="card-facts">
          <span>
            {sheets.length > 1 && `${grouped(sheets.length)} sheets · `}
            {counts.objects === 1 ? '1 object' : `${grouped(counts.objects)} objects`} ·{' '}
            {counts.points !== undefined && `${grouped(counts.points)} points · `}
            {grouped(counts.layers)} {counts.layers === 1 ? 'layer' : 'layers'} · {bytesText(sourceBytes)}
          </span>
        </p>
      )}
      {notes.map(({ message }) => (
        <p key={message} className="card-facts">
          <span>{message}</span>
        </p>
      ))}
      {leftOut.length > 0 && (
        <details className="card-above muted">
          <summary>{grouped(leftOut.reduce((sum, { count }) => sum + count, 0))} things were left out</summary>
          <ul>
            {leftOut.map(({ code, message, count, line, page }) => (
              <li key={`${code} ${message}`}>
                {count} × {message}
                {line === undefined ? '' : ` (first on line ${line})`}
                {page === undefined ? '' : ` (first on sheet ${page})`}
              </li>
            ))}
          </ul>
        </details>
      )}
      <p className="card-facts">
        <span>{whenText(updatedAt)}</span>
      </p>
    </>
  );
}

/** The latest import was cancelled: what can be done now. */
function Cancelled({ drawing }: { readonly drawing: DrawingDto }): ReactElement {
  if (drawing.revision > 0) return <p role="status">The last import was cancelled; this is what there was before.</p>;
  return (
    <>
      <p role="status">The import was cancelled.</p>
      <ImportAgain drawing={drawing} />
    </>
  );
}

/** Another try for a drawing of which nothing is there. */
function ImportAgain({ drawing }: { readonly drawing: DrawingDto }): ReactElement | null {
  const mayManage = useMay('manage');
  const { remove, sendAnew } = useDrawings();
  const [input, chooseFile] = useFileChoice(`File for ${drawing.name}`, (file) => void sendAnew(drawing, file));
  if (!mayManage) return null;
  return (
    <>
      {input}
      <div className="card-above">
        <Button size="small" onClick={chooseFile}>
          Import again
        </Button>{' '}
        <Button size="small" onClick={() => void remove(drawing.id)}>
          Remove
        </Button>
      </div>
    </>
  );
}

/** Share of the bar that reading takes, and where tiles end, per cent: what is left is the saving. */
const [READ, WRITTEN] = [55, 97];
const shareOf = (done: number, all: number): number => (all > 0 ? Math.min(done / all, 1) : 0);

function percentOf({ stage, bytesRead, bytesTotal, tiles, tilesTotal }: JobProgressDto): number {
  if (stage === 'reading') return Math.floor(READ * shareOf(bytesRead, bytesTotal));
  if (stage === 'arranging') return READ;
  return stage === 'tiles' ? Math.floor(READ + (WRITTEN - READ) * shareOf(tiles, tilesTotal)) : WRITTEN;
}

function stageInWords({ stage, objects, tiles, tilesTotal }: JobProgressDto): string {
  if (stage === 'reading') return `Reading, ${grouped(objects)} objects so far`;
  if (stage === 'arranging') return `Arranging ${grouped(objects)} objects`;
  return stage === 'tiles' ? `Writing tile ${grouped(tiles)} of ${grouped(tilesTotal)}` : 'Saving';
}

/** For how long it has been there, once that is worth telling. */
function Elapsed(): ReactElement | null {
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const began = performance.now();
    const timer = setInterval(() => setSeconds(Math.round((performance.now() - began) / 1000)), 1000);
    return () => clearInterval(timer);
  }, []);
  return seconds > 1 ? <>, {seconds} s</> : null;
}

function ImportProgress({
  drawing,
  job,
}: {
  readonly drawing: DrawingDto;
  readonly job: JobDto | undefined;
}): ReactElement {
  const cancel = useDrawings((state) => state.cancel);
  const progress = job?.progress;
  const isRunning = job?.state === 'running';
  const percent = isRunning && progress ? percentOf(progress) : 0;
  const text = isRunning && progress ? stageInWords(progress) : 'Waiting to be read';
  return (
    <>
      <p role="status">
        {text}
        {isRunning && <Elapsed />}
      </p>
      <Progress
        percent={percent}
        size="small"
        status={isRunning ? 'active' : 'normal'}
        aria-label={`Import of ${drawing.name}`}
      />
      {drawing.jobId !== null && !(job && hasEnded(job.state)) && (
        <Button size="small" className="card-above" onClick={() => void cancel(drawing.jobId!)}>
          Cancel the import
        </Button>
      )}
    </>
  );
}

function CardMenu({
  drawing,
  onRename,
}: {
  readonly drawing: DrawingDto;
  readonly onRename: () => void;
}): ReactElement {
  const [modal, holder] = Modal.useModal();
  const { remove, sendAnew } = useDrawings();
  const [input, chooseFile] = useFileChoice(`Newer file for ${drawing.name}`, (file) => void sendAnew(drawing, file));
  const askToRemove = (): void => {
    modal.confirm({
      title: `Delete “${drawing.name}”?`,
      content: 'The drawing and its imported file leave this machine for good.',
      okText: 'Delete',
      okButtonProps: { danger: true },
      cancelText: 'Keep',
      onOk: () => remove(drawing.id),
    });
  };
  const items: MenuItems = [
    { key: 'rename', label: 'Rename', onClick: onRename },
    {
      key: 'anew',
      label: 'Import a new revision',
      disabled: drawing.jobId !== null,
      onClick: chooseFile,
    },
    { type: 'divider' },
    { key: 'delete', label: 'Delete', danger: true, onClick: askToRemove },
  ];
  return (
    <>
      {holder}
      {input}
      <MenuButton className="icon-button" label={`More for ${drawing.name}`} placement="bottomRight" items={items}>
        <Ellipsis size={18} aria-hidden />
      </MenuButton>
    </>
  );
}

function NameField({ drawing, onEnd }: { readonly drawing: DrawingDto; readonly onEnd: () => void }): ReactElement {
  const rename = useDrawings((state) => state.rename);
  const [name, setName] = useState(drawing.name);
  const keep = (): void => {
    const isSame = name.trim() === drawing.name || name.trim() === '';
    (isSame ? Promise.resolve() : rename(drawing.id, name.trim())).then(onEnd, (error: unknown) =>
      useNotes.getState().tell('failed', troubleOf(error).title),
    );
  };
  return (
    <Input
      className="card-above"
      size="small"
      autoFocus
      aria-label="Name of the drawing"
      value={name}
      maxLength={200}
      onChange={(event) => setName(event.target.value)}
      onPressEnter={keep}
      onBlur={keep}
      onKeyDown={(event) => {
        if (event.key === 'Escape') onEnd();
      }}
    />
  );
}
