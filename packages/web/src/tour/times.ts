import { shownDecimals } from '../basics/decimals';

/** “0:07.4”, “12:03.0”. */
export function clockTime(ms: number): string {
  const tenths = Math.round(ms / 100);
  const minutes = Math.floor(tenths / 600);
  return shownDecimals(`${minutes}:${((tenths % 600) / 10).toFixed(1).padStart(4, '0')}`);
}

/** “3 minutes 5 seconds”, for sentences. */
export function spokenTime(ms: number): string {
  const seconds = Math.round(ms / 1000);
  const [minutes, rest] = [Math.floor(seconds / 60), seconds % 60];
  const part = (count: number, unit: string): string => `${count} ${unit}${count === 1 ? '' : 's'}`;
  return [
    ...(minutes > 0 ? [part(minutes, 'minute')] : []),
    ...(rest > 0 || minutes === 0 ? [part(rest, 'second')] : []),
  ].join(' ');
}
