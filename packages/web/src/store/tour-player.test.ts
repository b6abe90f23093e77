import { beforeEach, describe, expect, it } from 'vitest';
import { shownAtFirst } from '@gull-pane/core/view/shown';
import { createStore } from 'zustand/vanilla';
import { planCamera, type Camera } from '@gull-pane/core/camera/camera';
import { panBy } from '@gull-pane/core/camera/pan';
import type { CardDto } from '@gull-pane/protocol/cards';
import type { StopDto, TourDto } from '@gull-pane/protocol/tours';
import { cameraToDto } from '../wire/camera-dto';
import type { CardsStore } from './cards-store';
import { createPaneStore } from './pane-store';
import type { PaneStore } from './pane-state';
import { captionOf } from './tour-plan';
import { createTourPlayer, type TourPlayer, type TourPlayerState } from './tour-player';
import type { ToursStore } from './tours-store';

const viewport = { widthPx: 800, heightPx: 600 };
const cameras = [0, 5000, 12_000].map((x) => planCamera({ x, y: 0, z: 0 }, 2));
const card = (k: number): CardDto => ({
  id: `card ${k}`,
  drawingId: 'plan',
  name: `Valve ${k}`,
  group: '',
  position: k,
  picture: '',
  version: 1,
  camera: cameraToDto(cameras[k]!),
  ...viewport,
  updatedAt: '2026-11-26T00:00:00Z',
  shows: { hiddenLayers: [`layer ${k}`], hiddenObjects: '', revision: 1, clips: [] },
});
const stop = (k: number, change: Partial<StopDto> = {}): StopDto => ({
  id: `stop ${k}`,
  cardId: `card ${k}`,
  caption: '',
  travelMs: 2000,
  stayMs: 1000,
  easing: 'gentle',
  looksChange: 'midway',
  driftRadPerS: 0,
  ...change,
});

let nowMs: number;
let isStill: boolean;
let pane: PaneStore;
let tours: ToursStore;
let cards: CardsStore;
let player: TourPlayer;
let dressedAs: string[];
const now = (): TourPlayerState => player.getState();
const seen = (): Camera => pane.getState().camera;
const views = (): number => pane.getState().trail.entries.length;

function begin(change: Partial<TourDto> = {}): void {
  const tour: TourDto = {
    id: 'tour',
    drawingId: 'plan',
    name: 'Round',
    position: 1,
    loops: false,
    version: 1,
    updatedAt: '',
    stops: [stop(0), stop(1), stop(2)],
    ...change,
  };
  tours.setState({ tours: [tour] });
  now().open('tour');
}
/** Lets time pass, a frame every 20 ms. */
function pass(ms: number): void {
  for (const endMs = nowMs + ms; nowMs < endMs;) {
    nowMs += Math.min(20, endMs - nowMs);
    pane.getState().advance();
  }
}

beforeEach(() => {
  nowMs = 1000;
  isStill = false;
  dressedAs = [];
  pane = createPaneStore('1', {
    shown: shownAtFirst(),
    limits: { minUnitsPerPx: 1e-6, maxUnitsPerPx: 1e6 },
    support: () => [0, 0, 0, 20_000, 10_000, 0],
    now: () => nowMs,
    prefersStill: () => isStill,
    glides: () => false,
  });
  pane.getState().resize(viewport);
  tours = createStore(() => ({ tours: [] as TourDto[] })) as unknown as ToursStore;
  cards = createStore(() => ({ cards: [0, 1, 2].map(card) })) as unknown as CardsStore;
  player = createTourPlayer({
    pane,
    tours,
    cards,
    prefersStill: () => isStill,
    dress: ({ name }) => dressedAs.push(name),
    raise: () => undefined,
  });
  now().watch();
});

describe('a tour that plays', () => {
  it('goes by the clock, stays where it stays, ends at its end and is one step of the trail', () => {
    begin();
    const before = views();
    now().play();
    expect(seen()).toEqual(cameras[0]);
    pass(999);
    expect(seen()).toEqual(cameras[0]);
    pass(1001);
    expect(seen().target.x).toBeGreaterThan(0);
    expect(seen().target.x).toBeLessThan(5000);
    pass(1000);
    expect(seen()).toEqual(cameras[1]);
    expect(now()).toMatchObject({ nearest: 1, isPlaying: true });
    pass(60_000);
    expect(seen()).toEqual(cameras[2]);
    expect(now()).toMatchObject({ isPlaying: false, timeMs: 7000, nearest: 2 });
    expect(views()).toBe(before + 1);
    now().play(); // from its start again
    expect(seen()).toEqual(cameras[0]);
  });

  it('doesn’t depend on how many frames there are', () => {
    begin();
    now().play();
    pass(2300);
    const fine = seen();
    now().toStop(0);
    now().play();
    nowMs += 2300;
    pane.getState().advance();
    expect(seen()).toEqual(fine);
  });

  it('pauses and goes on from there', () => {
    begin();
    now().play();
    pass(2000);
    now().toggle();
    const paused = seen();
    pass(5000);
    expect(seen()).toEqual(paused);
    now().toggle();
    pass(1000);
    expect(seen()).toEqual(cameras[1]);
  });

  it('gives way to a hand on the view', () => {
    begin();
    now().play();
    pass(2000);
    pane.getState().dragTo(panBy(seen(), 50, 0));
    expect(now().isPlaying).toBe(false);
    const own = seen();
    pass(1000);
    expect(seen()).toEqual(own);
  });

  it('takes on the looks of each stop once, where the stop says', () => {
    begin({ stops: [stop(0), stop(1, { looksChange: 'leaving' }), stop(2, { looksChange: 'arriving' })] });
    now().play();
    expect(dressedAs).toEqual(['Valve 0']);
    pass(1100);
    expect(dressedAs).toEqual(['Valve 0', 'Valve 1']);
    pass(4800);
    expect(dressedAs).toHaveLength(2);
    pass(200);
    expect(dressedAs).toEqual(['Valve 0', 'Valve 1', 'Valve 2']);
  });

  it('goes round and round where it loops', () => {
    begin({ loops: true });
    now().play();
    pass(7000);
    expect(seen().target.x).toBeCloseTo(12_000, 6); // then two seconds back
    pass(2000);
    expect(seen().target.x).toBeCloseTo(0, 6);
    expect(now().isPlaying).toBe(true);
    pass(9000 * 3 + 3000);
    expect(seen()).toEqual(cameras[1]);
  });

  it('shows only its stops to those who prefer stillness', () => {
    isStill = true;
    begin({ stops: [stop(0, { driftRadPerS: 1 }), stop(1), stop(2)] });
    now().play();
    pass(2900);
    expect(seen()).toEqual(cameras[0]);
    pass(200);
    expect(seen()).toEqual(cameras[1]);
  });
});

describe('a tour by hand', () => {
  it('goes on to the next stop and waits; once more on the way is there at once', () => {
    begin();
    now().setByHand(true);
    now().play();
    pass(2000);
    expect(seen()).toEqual(cameras[1]);
    pass(60_000);
    expect(now()).toMatchObject({ isPlaying: false, nearest: 1 });
    expect(seen()).toEqual(cameras[1]);
    now().next();
    pass(500);
    now().next();
    expect(seen()).toEqual(cameras[2]);
    expect(now().isPlaying).toBe(false);
    now().next(); // there is no other
    pass(1000);
    expect(seen()).toEqual(cameras[2]);
  });

  it('goes back to the beginning of what is shown, then to the stop before', () => {
    begin();
    now().seek(5500); // on the way from the second to the third
    now().previous();
    expect(seen()).toEqual(cameras[1]);
    now().previous();
    expect(seen()).toEqual(cameras[0]);
    now().previous();
    expect(seen()).toEqual(cameras[0]);
  });

  it('passes from the last stop to the first where it loops', () => {
    begin({ loops: true });
    now().toStop(2);
    now().next();
    pass(2000);
    expect(seen().target.x).toBeCloseTo(0, 6);
    expect(now().isPlaying).toBe(false);
    now().previous();
    expect(seen()).toEqual(cameras[2]);
  });

  it('shows any moment by the time axis, and is on the trail when that is let go of', () => {
    begin();
    const before = views();
    for (const timeMs of [100, 900, 1700, 2400]) now().seek(timeMs);
    expect(views()).toBe(before);
    now().endSeek();
    expect(views()).toBe(before + 1);
    now().seek(1e9);
    expect(now().timeMs).toBe(7000);
  });
});

describe('the plan of a tour', () => {
  it('leaves out stops whose cards are gone, and takes them back', () => {
    begin({ stops: [stop(0), stop(1, { caption: 'Look at the flange' }), stop(2)] });
    expect(now().plan!.stops.map(captionOf)).toEqual(['Valve 0', 'Look at the flange', 'Valve 2']);
    cards.setState({ cards: [card(0), card(2)] });
    expect(now().plan!.stops.map(captionOf)).toEqual(['Valve 0', 'Valve 2']);
    expect(now().plan!.timeline!.durationMs).toBe(4000);
    cards.setState({ cards: [card(0), card(1), card(2)] });
    expect(now().plan!.stops).toHaveLength(3);
    cards.setState({ cards: [] });
    expect(now().plan!.timeline).toBeNull();
    now().play();
    expect(now().isPlaying).toBe(false);
    tours.setState({ tours: [] });
    expect(now().plan).toBeNull();
  });

  it('shows all of a card in a pane of another size', () => {
    begin();
    pane.getState().resize({ widthPx: 400, heightPx: 600 });
    now().toStop(1);
    expect(seen().unitsPerPx).toBe(4);
  });
});
