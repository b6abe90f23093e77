import { describe, expect, it } from 'vitest';
import { planCamera, type Camera } from '@gull-pane/core/camera/camera';
import { toPerspective } from '@gull-pane/core/camera/projection';
import type { CardDto, CardShowsDto } from '@gull-pane/protocol/cards';
import { inGroups } from '../shelf/card-groups';
import { cameraToDto } from './camera-dto';
import { differences, fittingCamera } from './cards-store';

const viewport = { widthPx: 800, heightPx: 500 };
const camera = planCamera({ x: 412600000, y: 7208400000, z: 0 }, 4);
const shows: CardShowsDto = { hiddenLayers: ['Dimensions'], hiddenObjects: '', revision: 1, clips: [] };
function cardOf(own: Camera, change: Partial<CardDto> = {}): CardDto {
  return {
    ...{ id: 'a', drawingId: 'd', version: 1, updatedAt: '', name: 'Valves', group: '', position: 1, picture: '' },
    ...{ camera: cameraToDto(own), ...viewport, shows },
    ...change,
  };
}

describe('what a card would change, in words', () => {
  const told = (own: Camera, now = shows): string[] => differences(cardOf(camera), own, viewport, now);

  it('is nothing where the pane shows just that', () => {
    expect(told(camera)).toEqual([]);
    expect(told({ ...camera, target: { ...camera.target, x: camera.target.x + 1 } })).toEqual([]);
  });

  it('tells place, scale, direction and projection', () => {
    expect(told({ ...camera, target: { ...camera.target, x: 412_700_000 } })).toEqual(['another place']);
    expect(told({ ...camera, unitsPerPx: 8 })).toEqual(['closer']);
    expect(told({ ...camera, unitsPerPx: 2 })).toEqual(['farther']);
    expect(told({ ...camera, orientation: { x: 0, y: 0, z: Math.SQRT1_2, w: Math.SQRT1_2 } })).toEqual([
      'another direction',
    ]);
    expect(told(toPerspective(camera))).toEqual(['in parallel']);
  });

  it('tells looks, layers, hidden objects and clips', () => {
    expect(told(camera, { ...shows, hiddenLayers: [] })).toEqual(['1 layer']);
    expect(told(camera, { ...shows, hiddenLayers: ['Pumps', 'Pipes'] })).toEqual(['3 layers']);
    expect(told(camera, { ...shows, hiddenObjects: '3' })).toEqual(['hidden objects']);
    // those of another import can't be compared
    expect(told(camera, { ...shows, hiddenObjects: '3', revision: 2 })).toEqual([]);
  });
});

describe('a card in another pane', () => {
  it('is the very same view in one of its size, and holds all that was seen in others', () => {
    const card = cardOf(camera);
    expect(fittingCamera(card, viewport)).toEqual(camera);
    const narrow = fittingCamera(card, { widthPx: 400, heightPx: 900 });
    expect(narrow.unitsPerPx * 400).toBeCloseTo(4 * 800, 9);
    expect(fittingCamera(card, { widthPx: 1600, heightPx: 1000 }).unitsPerPx).toBe(2);
  });
});

it('cards stand in groups, and are found by the name of either', () => {
  const cards = [
    cardOf(camera, { id: '1', name: 'Intake', group: 'Sea' }),
    cardOf(camera, { id: '2', name: 'All' }),
    cardOf(camera, { id: '3', name: 'Outfall', group: 'Sea' }),
  ];
  const told = (wanted: string) => inGroups(cards, wanted).map(({ name, cards: own }) => [name, own.length]);
  expect(told('')).toEqual([
    ['', 1],
    ['Sea', 2],
  ]);
  expect(told('SEA')).toEqual([['Sea', 2]]);
  expect(told('all')).toEqual([
    ['', 1],
    ['Sea', 1],
  ]);
  expect(told('nothing')).toEqual([]);
});
