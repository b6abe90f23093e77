import { buildings } from './buildings.ts';

export const QUARTER = Math.PI / 2;
export const { width, depth, x: west, y: south } = buildings.pumpHall;
/** Where the plan has the pumps, metres from the hall's corner. */
export const pumps = Array.from({ length: 8 }, (_, i) => ({ tag: `KS-PU-${201 + i}`, east: 6 + i * 7, north: 14 }));
export const EAVES = 11;
