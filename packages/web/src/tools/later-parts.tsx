/** What is opened from the bottom line or belongs to a tool in hand: its code comes when it is shown. */
import { later } from '../controls/later';

export const SnapsPanel = later(async () => (await import('./snaps-panel')).SnapsPanel);
export const FiguresPanel = later(async () => (await import('./figures-panel')).FiguresPanel);
export const CollectPrompt = later(async () => (await import('./collect-prompt')).CollectPrompt);
export const RatioInput = later(async () => (await import('./ratio-input')).RatioInput);
export const BoxTakesChoice = later(async () => (await import('./box-takes')).BoxTakesChoice);
