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
    gluEnum: Record<'GLU_TESS_WINDING_RULE' | 'GLU_TESS_VERTEX' | 'GLU_TESS_COMBINE' | 'GLU_TESS_EDGE_FLAG', number>;
    windingRule: Record<'GLU_TESS_WINDING_ODD' | 'GLU_TESS_WINDING_NONZERO', number>;
  };
  export default libtess;
}
