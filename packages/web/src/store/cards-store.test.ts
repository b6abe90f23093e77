import { describe, expect, it } from 'vitest';
import { planCamera, type Camera } from '@gull-pane/core/camera/camera';
import type { CardDto, CardShowsDto } from '@gull-pane/protocol/cards';
import { inGroups } from '../shelf/card-groups';
import { cameraToDto } from '../wire/camera-dto';
import { fittingCamera } from './cards-store';

const viewport = { widthPx: 800, heightPx: 500 };
const camera = planCamera({ x: 412600000, y: 7208400000, z: 0 }, 4);
const shows: CardShowsDto = { hiddenLayers: ['Dimensions'], hiddenObjects: '', revision: 1, clips: [] };
function cardOf(own: Camera, change: Partial<CardDto> = {}): CardDto {
  return {
    id: 'a',
    drawingId: 'd',
    version: 1,
    updatedAt: '',
    name: 'Valves',
    group: '',
    position: 1,
    picture: '',
    camera: cameraToDto(own),
    ...viewport,
    shows,
    ...change,
  };
}

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
