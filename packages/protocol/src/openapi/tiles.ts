import { bytes, json, type Operation } from './operation.ts';

/** The display pyramid. */
export const tilesOperations: readonly Operation[] = [
  {
    method: 'get',
    path: '/api/drawings/{id}/tiles/tileset.json',
    needs: 'look',
    summary: 'The display pyramid, 3D Tiles 1.1',
    answer: json({ type: 'object' }),
    problems: ['drawing-not-found', 'drawing-not-ready'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/tiles/{revision}/{tile}',
    needs: 'look',
    summary: 'A tile, the detail of one, or a pack of shapes',
    answer: { ...bytes('model/gltf-binary'), ...bytes('application/octet-stream') },
    problems: ['not-found'],
  },
  {
    method: 'get',
    path: '/api/drawings/{id}/tiles/{revision}/pictures/{source}/{level}/{name}',
    needs: 'look',
    summary: 'A tile of a raster picture',
    answer: { ...bytes('image/png'), ...bytes('image/jpeg') },
    problems: ['not-found'],
  },
];
