import { Alert, Button, Radio } from 'antd';
import { Boxes, FileBox, FileCode, MapPinned, Package, type LucideIcon } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { viewBox } from '@gull-pane/core/camera/view-box';
import { rangesOf } from '@gull-pane/core/drawing/ranges';
import type { ExportFormat, ExportPartDto } from '@gull-pane/protocol/export';
import { bearingOf } from '@gull-pane/core/camera/twist';
import { isMarkShown, kindNames, type Shown } from '@gull-pane/core/view/shown';
import type { ActionTarget, Parts } from '../actions/action';
import { layOutSheetsAction } from '../actions/share-actions';
import { api } from '../api/client';
import { saveFile } from '../basics/save-file';
import { troubleOf, type Trouble } from '../store/drawings-store';
import { usePickSets } from '../store/pick-sets-store';

interface Format {
  readonly id: ExportFormat | 'package';
  readonly name: string;
  readonly sentence: string;
  readonly ending: string;
  readonly icon: LucideIcon;
  readonly for: 'flat' | 'solid' | 'any';
  /** Whether a part of the drawing can be written. */
  readonly hasPart: boolean;
}

const formats: readonly Format[] = [
  {
    id: 'svg',
    name: 'SVG',
    ending: 'svg',
    icon: FileCode,
    for: 'flat',
    hasPart: true,
    sentence: 'Every curve, layer and text, to the last digit.',
  },
  {
    id: 'geojson',
    name: 'GeoJSON',
    ending: 'geojson',
    icon: MapPinned,
    for: 'flat',
    hasPart: true,
    sentence: 'A feature an object, in metres of the plane; curves as chords.',
  },
  {
    id: 'glb',
    name: 'GLB',
    ending: 'glb',
    icon: FileBox,
    for: 'solid',
    hasPart: true,
    sentence: 'Every object by its name, with layers, materials and properties.',
  },
  {
    id: '3d-tiles',
    name: '3D Tiles',
    ending: '3d-tiles.zip',
    icon: Boxes,
    for: 'any',
    hasPart: false,
    sentence: 'A folder that any web server can offer; always the whole drawing.',
  },
  {
    id: 'package',
    name: 'Package',
    ending: 'gull-pane.zip',
    icon: Package,
    for: 'any',
    hasPart: false,
    sentence: 'The file that came in, with views, tours, sheets, arrangements and picked sets, for another Gull Pane.',
  },
];

/** The drawing goes out as a file. */
export function FilesOut({ target }: { readonly target: Parts<'pane' | 'drawing' | 'marks' | 'ui'> }): ReactElement {
  const { id, name, kind } = useStore(target.drawing, (state) => state.drawing);
  const [isPart, setPart] = useState(false);
  const [busy, setBusy] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const write = async (format: Format): Promise<void> => {
    setBusy(format.id);
    setTrouble(null);
    try {
      const part = isPart && format.hasPart ? shownPart(target) : {};
      const file =
        format.id === 'package' ? await api.package(id, pickSetsOf(target)) : await api.export(id, format.id, part);
      saveFile(`${name}.${format.ending}`, file);
    } catch (error) {
      setTrouble(troubleOf(error));
    } finally {
      setBusy(null);
    }
  };
  const shown = kind === 'flat' ? 'What the pane shows' : 'Without what is hidden';
  return (
    <section className="files-out" aria-label="Files">
      <div className="files-out-head">
        <h2>{`“${name}” as a file`}</h2>
        <Radio.Group
          size="small"
          aria-label="How much of it"
          value={isPart}
          options={[
            { value: false, label: 'The whole drawing' },
            { value: true, label: shown },
          ]}
          onChange={(event) => setPart(event.target.value as boolean)}
        />
      </div>
      {trouble && (
        <Alert type="error" title={trouble.title} description={`${trouble.detail} ${trouble.hint}`.trim()} showIcon />
      )}
      <ul>
        <li>
          <Button
            icon={<layOutSheetsAction.icon size={15} aria-hidden />}
            onClick={() => layOutSheetsAction.run(target)}
          >
            Sheets
          </Button>
          <span className="muted">
            Onto paper, as PDF, SVG or pictures: views at exact scales, with a strip that says what they are.
          </span>
        </li>
        {formats
          .filter((format) => format.for === 'any' || format.for === kind)
          .map((format) => (
            <li key={format.id}>
              <Button
                icon={<format.icon size={15} aria-hidden />}
                loading={busy === format.id}
                disabled={busy !== null && busy !== format.id}
                onClick={() => void write(format)}
              >
                {format.name}
              </Button>
              <span className="muted">{format.sentence}</span>
            </li>
          ))}
      </ul>
    </section>
  );
}

/** What the pane shows of its drawing: its frame, without what is hidden. */
function shownPart({ pane, drawing, marks }: Parts<'pane' | 'drawing' | 'marks'>): ExportPartDto {
  const { camera, viewport, shown } = pane.getState();
  const { hiddenLayers, hiddenObjects } = shown;
  const { drawing: dto } = drawing.getState();
  return {
    ...(dto.kind === 'flat'
      ? {
          box: viewBox(camera, viewport),
          frame: {
            x: camera.target.x,
            y: camera.target.y,
            bearingRad: bearingOf(camera),
            width: viewport.widthPx * camera.unitsPerPx,
            height: viewport.heightPx * camera.unitsPerPx,
          },
          kindsOff: kindNames.filter((kind) => !shown.kinds[kind]),
        }
      : {}),
    hiddenLayers: [...hiddenLayers],
    hiddenMarkLayers: hiddenMarkLayersOf(shown, marks),
    ...(hiddenObjects ? { hiddenObjects: rangesOf(dto.counts.objects, (object) => hiddenObjects.has(object)) } : {}),
  };
}

function hiddenMarkLayersOf(shown: Shown, marks: ActionTarget['marks']): string[] {
  return [
    ...new Set(
      marks
        .getState()
        .marks.filter((mark) => !isMarkShown(shown, mark))
        .map(({ layer }) => layer),
    ),
  ];
}

function pickSetsOf({ drawing }: Parts<'drawing'>) {
  const { id, revision, counts } = drawing.getState().drawing;
  const sets = usePickSets.getState().byDrawing[`${id} ${revision}`] ?? [];
  return sets.map(({ name, objects }) => {
    const own = new Set(objects);
    return { name, objects: rangesOf(counts.objects, (object) => own.has(object)) };
  });
}
