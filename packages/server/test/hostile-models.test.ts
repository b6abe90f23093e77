import { holdHostile } from './hold-hostile.ts';

holdHostile(['PDF', 'glTF', 'OBJ, STL and PLY', 'points', 'IFC and STEP']);
