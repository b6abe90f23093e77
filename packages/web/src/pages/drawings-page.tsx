import { Alert, Button, Skeleton } from 'antd';
import { FilePlus2, FileUp } from 'lucide-react';
import { useEffect, useState, type ReactElement } from 'react';
import { useDropzone } from 'react-dropzone';
import { TopBar } from '../bar/top-bar';
import { bytesText } from '../basics/figures';
import { useDrawings } from '../store/drawings-store';
import { BeginDialog } from './begin-dialog';
import { useMay } from '../api/access-store';
import { DrawingCard } from './drawing-card';
import { Notes } from './later-parts';
import { Notice } from '../controls/notice';
import { PackageDialog } from './package-dialog';
import { SignedIn } from './signed-in';
import './drawings-page.css';

/** Loads the list before the page is shown. If that fails, the page shows the error. */
export async function loadDrawings(): Promise<null> {
  await useDrawings.getState().refresh();
  return null;
}

/** All drawings as cards; files are dropped anywhere on the page or chosen. */
export function DrawingsPage(): ReactElement {
  const { drawings, trouble, refused, sending, refresh, send, forgetRefused } = useDrawings();
  const mayManage = useMay('manage');
  const [isBeginning, setBeginning] = useState(false);
  const [packaged, setPackaged] = useState<File | null>(null);
  useEffect(() => {
    document.title = 'Drawings · Gull Pane';
  }, []);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    noDrag: !mayManage,
    onDrop: (files) => {
      void import('./joined-files').then(async ({ joinedFiles }) => {
        const { drawings: ready, packages } = await joinedFiles(files);
        setPackaged(packages[0] ?? null);
        for (const file of ready) void send(file);
      });
    },
  });
  return (
    <div {...getRootProps({ className: 'drawings-page', role: 'presentation' })}>
      <TopBar />
      <main>
        <div className="drawings-head">
          <h1>Drawings</h1>
          <input {...getInputProps({ 'aria-label': 'Files to import' })} />
          {mayManage && (
            <>
              <Button type="primary" icon={<FileUp size={16} aria-hidden />} onClick={open}>
                Import a drawing
              </Button>
              <Button icon={<FilePlus2 size={16} aria-hidden />} onClick={() => setBeginning(true)}>
                Begin a drawing
              </Button>
              <span className="muted">
                SVG, PDF, GeoJSON, pictures, glTF, IFC, STEP, IGES, STL, OBJ, PLY, points, packages · or drop files here
              </span>
            </>
          )}
          <SignedIn />
        </div>
        {refused.map(({ file, title, detail, hint }, index) => (
          <Alert
            key={`${file} ${index}`}
            type="error"
            role="alert"
            title={`${file}: ${title}`}
            description={`${detail} ${hint}`.trim()}
            closable={{ onClose: forgetRefused }}
          />
        ))}
        {trouble && (
          <Notice title={trouble.title} isError>
            <p>{trouble.hint}</p>
            <Button onClick={() => void refresh()}>Try again</Button>
          </Notice>
        )}
        {!drawings && !trouble && <Skeleton active paragraph={{ rows: 6 }} />}
        {sending.map(({ id, name, sent, of, callOff }) => (
          <div key={id} className="sending" role="status" aria-label={`Sending ${name}`}>
            <span>
              Sending {name}, {bytesText(sent)} of {bytesText(of)}
            </span>
            <progress value={sent} max={of} aria-label={`Sent of ${name}`} />
            <Button size="small" onClick={callOff}>
              Cancel the upload
            </Button>
          </div>
        ))}
        {drawings?.length === 0 && !mayManage && (
          <Notice title="No drawing is here yet">
            <p>Somebody who manages drawings has to import one.</p>
          </Notice>
        )}
        {drawings?.length === 0 && mayManage && sending.length === 0 && (
          <Notice title="No drawing is here yet">
            <p>
              Drop a plan (SVG, PDF, GeoJSON), a picture (PNG, JPEG, TIFF), a model (glTF, IFC, STEP, STL, OBJ, PLY) or
              points (XYZ, CSV) on this page, or choose a file. It stays on this machine.
            </p>
            <Button type="primary" onClick={open}>
              Choose a file
            </Button>
          </Notice>
        )}
        <ul className="cards">
          {drawings?.map((drawing) => (
            <DrawingCard key={drawing.id} drawing={drawing} />
          ))}
        </ul>
      </main>
      <Notes />
      {isBeginning && <BeginDialog onClose={() => setBeginning(false)} />}
      {packaged && <PackageDialog key={packaged.name} file={packaged} onClose={() => setPackaged(null)} />}
      {isDragActive && (
        <div className="drop-veil" role="status">
          Let go to import
        </div>
      )}
    </div>
  );
}
