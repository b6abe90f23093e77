import { holdHostile } from './hold-hostile.ts';

holdHostile(['SVG', 'pictures', 'GeoJSON', 'any file']);
