import { holdHostile } from './hold-hostile.ts';

holdHostile(['SVG', 'GeoJSON', 'any file']);
