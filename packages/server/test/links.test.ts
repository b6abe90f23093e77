import { afterAll, beforeAll, expect, it } from 'vitest';
import type { LinkedDto, LinkIdDto } from '@gull-pane/protocol/links';
import { TestServer, problemOf } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

const drawingId = '0a3c5b1e-7d54-4f0e-9d0b-4b8f5d9b1c11';
const camera = { x: 412600500.123456789, y: 7208400250, z: 0, unitsPerPx: 2.5, qx: 0, qy: 0, qz: 0, qw: 1 };
const linked = (unitsPerPx = 2.5): LinkedDto => ({
  arranged: {
    tiling: { pane: '1' },
    active: '1',
    ties: [],
    panes: [
      {
        pane: '1',
        drawingId,
        camera: { ...camera, unitsPerPx },
        widthPx: 480,
        heightPx: 620,
        shows: { hiddenLayers: ['Gratings'], hiddenObjects: '1-3', revision: 1, clips: [], kindsOff: ['texts'] },
        isLocked: true,
        drifts: false,
        turnsAlone: false,
        orbitMode: 'level',
        trail: { views: [], current: 0 },
      },
    ],
  },
  drawings: [{ id: drawingId, name: 'Chamber', kind: 'flat', objects: 12 }],
});
const keep = (body: unknown): Promise<Response> =>
  server.fetch('/api/links', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });

it('short links open what was kept, to the last digit, also after a restart; the same has the same link', async () => {
  const kept = await keep(linked());
  expect(kept.status).toBe(201);
  const { id } = (await kept.json()) as LinkIdDto;
  expect(id).toMatch(/^[a-z2-7]{10}$/);
  expect((await (await keep(linked())).json()) as LinkIdDto).toEqual({ id });
  expect(((await (await keep(linked(3))).json()) as LinkIdDto).id).not.toBe(id);
  await server.restart();
  expect(await server.json(`/api/links/${id}`)).toEqual(linked());
});

it('links that nobody made, and panes that make no sense, are refused', async () => {
  const unknown = await server.fetch('/api/links/aaaaaaaaaa');
  expect(unknown.status).toBe(404);
  expect(await problemOf(unknown)).toMatchObject({ code: 'link-not-found' });
  const bad = linked();
  expect((await keep({ ...bad, arranged: { ...bad.arranged, active: '2' } })).status).toBe(400);
  expect((await keep({ ...bad, drawings: 'all' })).status).toBe(400);
});
