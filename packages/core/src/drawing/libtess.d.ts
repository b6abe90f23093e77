declare module 'libtess' {
  class GluTesselator {
    gluTessProperty(which: number, value: number): void;
    gluTessCallback(which: number, callback: (vertex: number[]) => unknown): void;
    gluTessNormal(x: number, y: number, z: number): void;
    gluTessBeginPolygon(data: unknown): void;
    gluTessBeginContour(): void;
    gluTessVertex(place: number[], data: unknown): void;
    gluTessEndContour(): void;
    gluTessEndPolygon(): void;
  }
  const libtess: {
    GluTesselator: typeof GluTesselator;
    gluEnum: Record<
      | 'GLU_TESS_WINDING_RULE'
      | 'GLU_TESS_BOUNDARY_ONLY'
      | 'GLU_TESS_BEGIN'
      | 'GLU_TESS_VERTEX'
      | 'GLU_TESS_COMBINE'
      | 'GLU_TESS_EDGE_FLAG',
      number
    >;
    windingRule: Record<'GLU_TESS_WINDING_ODD' | 'GLU_TESS_WINDING_NONZERO' | 'GLU_TESS_WINDING_ABS_GEQ_TWO', number>;
  };
  export default libtess;
}
