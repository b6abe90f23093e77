import { numbersOfRanges } from '@gull-pane/core/drawing/ranges';
import fc from 'fast-check';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { faultsOfBcf } from '../testing/check-bcf.ts';
import { anyViews, circumstances, hall } from '../testing/sample-views.ts';
import type { ExchangedView } from '../view.ts';
import { bcfVersions } from './bcf-version.ts';
import { readBcf } from './read-bcf.ts';
import { writeBcf } from './write-bcf.ts';

const limits = { mostClips: 4, depth: 5000 };
const dotOf = (a: ExchangedView['camera'], b: ExchangedView['camera']): number =>
  Math.abs(a.qx * b.qx + a.qy * b.qy + a.qz * b.qz + a.qw * b.qw);

/** Of a perspective view the depth isn't told: how far apart its lines of sight are, as a share of its height. */
function eyeOfView({ camera, heightPx }: ExchangedView): {
  readonly x: number;
  readonly y: number;
  readonly z: number;
} {
  const { qx, qy, qz, qw, fovRad, unitsPerPx } = camera;
  const distance = (unitsPerPx * heightPx) / 2 / Math.tan(fovRad! / 2);
  const back = { x: 2 * (qx * qz + qw * qy), y: 2 * (qy * qz - qw * qx), z: 1 - 2 * (qx * qx + qy * qy) };
  return { x: camera.x + back.x * distance, y: camera.y + back.y * distance, z: camera.z + back.z * distance };
}

describe.each(bcfVersions)('BCF %s', (version) => {
  it('names objects by the GlobalId that their source gave them, and finds them by it under any number and name', () => {
    const objectIds = hall.objectNames!.map((_, k) => `2Ke1pieSoundHa11000$_${k}`);
    fc.assert(
      fc.property(anyViews, (views) => {
        const { bytes } = writeBcf(views, { ...hall, objectIds }, version, circumstances());
        expect(faultsOfBcf(bytes, version)).toEqual([]);
        // the next import has the objects in another order, under other names
        const other = {
          ...hall,
          objectIds: objectIds.toReversed(),
          objectNames: hall.objectNames!.map((_, k) => `Renamed ${k}`),
        };
        const last = hall.objects - 1;
        readBcf(bytes, other, limits).views.forEach(({ shows }, k) => {
          const { revision, picked = '' } = views[k]!.shows;
          const expected = revision === hall.revision ? numbersOfRanges(picked, hall.objects) : [];
          const found = numbersOfRanges(shows.picked ?? '', hall.objects);
          expect([...found].map((object) => last - object).sort()).toEqual([...expected].sort());
        });
      }),
      { numRuns: 30 },
    );
  });

  it('has the structure that the standard demands', () => {
    fc.assert(
      fc.property(anyViews, (views) => {
        const { bytes } = writeBcf(views, hall, version, circumstances());
        expect(faultsOfBcf(bytes, version)).toEqual([]);
      }),
    );
  });

  it('comes back: names, groups, comments, pictures, objects, clips, and the same sight', () => {
    fc.assert(
      fc.property(anyViews, (views) => {
        const { bytes } = writeBcf(views, hall, version, circumstances());
        const { views: back } = readBcf(bytes, hall, limits);
        expect(back).toHaveLength(views.length);
        for (const [k, view] of views.entries()) {
          const own = back[k]!;
          expect([own.name, own.group]).toEqual([view.name, view.group]);
          expect(own.comments).toEqual(view.comments);
          expect(own.picture).toEqual(view.picture);
          expect(own.shows.hiddenObjects).toBe(view.shows.hiddenObjects);
          expect(own.shows.picked).toBe(view.shows.picked);
          expect(dotOf(own.camera, view.camera)).toBeCloseTo(1, 12);
          expect(own.shows.clips.length).toBe(view.shows.clips.length);
          for (const [c, clip] of view.shows.clips.entries()) {
            const { centre, half } = own.shows.clips[c]!;
            expect(own.shows.clips[c]!.kind).toBe(clip.kind);
            expect(
              Math.hypot(centre.x - clip.centre.x, centre.y - clip.centre.y, centre.z - clip.centre.z),
            ).toBeLessThan(1e-4);
            expect(half.x * half.y * half.z).toBeCloseTo(clip.half.x * clip.half.y * clip.half.z, -4);
          }
          if (view.camera.fovRad === undefined) {
            const height = view.camera.unitsPerPx * view.heightPx;
            expect((own.camera.unitsPerPx * own.heightPx) / height).toBeCloseTo(1, 12);
          } else {
            expect(own.camera.fovRad).toBeCloseTo(view.camera.fovRad, 12);
            const [a, b] = [eyeOfView(own), eyeOfView(view)];
            expect(Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z)).toBeLessThan(2e-5);
          }
        }
      }),
    );
  });
});

const plain: ExchangedView = {
  name: 'Valve & pump <V-207>',
  group: 'Checks',
  widthPx: 1200,
  heightPx: 800,
  camera: { x: 412600500.123456789, y: 7208400250.5, z: 1500, unitsPerPx: 2.5, qx: 0, qy: 0, qz: 0, qw: 1 },
  shows: { hiddenLayers: [], hiddenObjects: '', revision: 3, clips: [] },
};

describe('places', () => {
  it('are metres with every digit of the millimetres', () => {
    const { bytes } = writeBcf([plain], hall, '3.0', circumstances());
    const files = unzipSync(bytes);
    const point = strFromU8(files[Object.keys(files).find((name) => name.endsWith('.bcfv'))!]!);
    expect(point).toContain('<X>412600.5001234568</X>');
    expect(point).toContain('<Y>7208400.2505</Y>');
    expect(point).toContain('<ViewToWorldScale>2</ViewToWorldScale>');
    expect(point).toContain('<AspectRatio>1.5</AspectRatio>');
  });

  it('of a view straight down come back to the last digit, from 3.0 with the shape of the pane', () => {
    const { bytes } = writeBcf([plain], hall, '3.0', circumstances());
    expect(readBcf(bytes, hall, limits).views).toEqual([plain]);
  });
});

describe('what can’t be told', () => {
  it('is listed', () => {
    const view: ExchangedView = {
      ...plain,
      camera: { ...plain.camera, fovRad: 0.4 },
      shows: { ...plain.shows, hiddenLayers: ['Lifting'], look: 'shaded', kindsOff: ['texts'] },
    };
    const { bytes, losses } = writeBcf([view], hall, '2.1', circumstances());
    expect(losses.join(' ')).toMatch(/Fields of view outside 45° to 60°/);
    expect(losses.join(' ')).toMatch(/Layers aren’t told/);
    expect(losses.join(' ')).toMatch(/look of solids/);
    const [back] = readBcf(bytes, hall, limits).views;
    expect(back!.camera.fovRad).toBeCloseTo(Math.PI / 4, 12);
    expect(back!.shows.hiddenObjects).toBe('4'); // the crane, which is all of the layer
  });
});

describe('files of other programs', () => {
  const archive = (point: string, markup = ''): Uint8Array =>
    zipSync({
      'bcf.version': strToU8('<?xml version="1.0"?><Version VersionId="2.1"/>'),
      'a/markup.bcf': strToU8(
        markup ||
          `<?xml version="1.0"?><Markup><Topic Guid="a"><Title>Clash</Title><CreationDate>2026-01-01T00:00:00Z</CreationDate>
           <CreationAuthor>x</CreationAuthor></Topic><Viewpoints Guid="v"><Viewpoint>own.bcfv</Viewpoint></Viewpoints></Markup>`,
      ),
      'a/own.bcfv': strToU8(`<?xml version="1.0"?><VisualizationInfo Guid="v">${point}</VisualizationInfo>`),
    });
  const camera = `<PerspectiveCamera><CameraViewPoint><X>1</X><Y>2</Y><Z>3</Z></CameraViewPoint>
    <CameraDirection><X>0</X><Y>3</Y><Z>-1</Z></CameraDirection><CameraUpVector><X>0</X><Y>0</Y><Z>1</Z></CameraUpVector>
    <FieldOfView>60</FieldOfView></PerspectiveCamera>`;

  it('are read where up isn’t upright and all but a few objects are hidden', () => {
    const components = `<Components><Visibility DefaultVisibility="false"><Exceptions>
      <Component IfcGuid="Crane"/><Component><AuthoringToolId>Pump P-102</AuthoringToolId></Component><Component IfcGuid="elsewhere"/>
      </Exceptions></Visibility></Components>`;
    const { views, losses } = readBcf(archive(components + camera), hall, limits);
    expect(views[0]).toMatchObject({ name: 'Clash', group: '', shows: { hiddenObjects: '0,2-3' } });
    expect(losses).toContain('Some of its objects aren’t in this drawing.');
    const { x, y, z } = eyeOfView(views[0]!);
    expect([x, y, z].map((value) => Math.round(value))).toEqual([1000, 2000, 3000]);
  });

  it('that hide more single objects than a view can name show all, and say so', () => {
    const objectNames = Array.from({ length: 30_000 }, (_, k) => `Bolt ${k}`);
    const yard = { ...hall, objects: objectNames.length, objectNames };
    const every2nd = objectNames.filter((_, k) => k % 2 === 0).map((name) => `<Component IfcGuid="${name}"/>`);
    const components = `<Components><Visibility DefaultVisibility="true"><Exceptions>${every2nd.join('')}</Exceptions></Visibility></Components>`;
    const { views, losses } = readBcf(archive(components + camera), yard, { ...limits, mostRanges: 60 });
    expect(views[0]!.shows.hiddenObjects).toBe('');
    expect(losses.join()).toMatch(/too many single objects/);
    const told = readBcf(archive(components + camera), yard, limits).views[0]!.shows.hiddenObjects;
    expect(numbersOfRanges(told, 30_000)).toEqual(Array.from({ length: 15_000 }, (_, k) => 2 * k));
  });

  it('with more clipping planes than can cut keep the first, and say so', () => {
    const plane =
      '<ClippingPlane><Location><X>0</X><Y>0</Y><Z>0</Z></Location><Direction><X>0</X><Y>0</Y><Z>2</Z></Direction></ClippingPlane>';
    const { views, losses } = readBcf(
      archive(`${camera}<ClippingPlanes>${plane.repeat(5)}</ClippingPlanes>`),
      hall,
      limits,
    );
    expect(views[0]!.shows.clips).toHaveLength(4);
    expect(losses.join()).toMatch(/No more than 4 clipping planes/);
  });

  it.each([
    ['nothing that is an archive', strToU8('PK no archive'), /isn’t a whole/],
    ['another archive', zipSync({ 'a.txt': strToU8('a') }), /isn’t BCF/],
    ['a version of the future', zipSync({ 'bcf.version': strToU8('<Version VersionId="9.0"/>') }), /version “9.0”/],
    ['XML that breaks off', archive('<PerspectiveCamera>'), /own\.bcfv isn’t sound XML: line/],
    [
      'a number that is none',
      archive(camera.replace('<X>1</X>', '<X>one</X>')),
      /the camera can’t be read, “one” is no number/,
    ],
    [
      'a camera that looks nowhere',
      archive(camera.replace('<Y>3</Y><Z>-1</Z>', '<Y>0</Y><Z>0</Z>')),
      /has no direction/,
    ],
    ['entities', archive('', '<!DOCTYPE a [<!ENTITY b "c">]><Markup/>'), /declares entities/],
    ['no viewpoints', archive(''), /no viewpoints/],
  ])('with %s are refused with the reason', (_, bytes, told) => {
    expect(() => readBcf(bytes, hall, limits)).toThrow(told);
  });
});
