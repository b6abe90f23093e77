import { holdHostile } from './hold-hostile.ts';

holdHostile(['PDF', 'glTF', 'OBJ, STL and PLY', 'IFC and STEP']);
