import { BufferAttribute, BufferGeometry, LineSegments, Mesh, Points } from 'three';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { SolidTileContent } from '../../tiles/solid-tile-content';
import type { SolidMaterials } from './solid-materials';

/** What the graphics processor holds of one tile of a solid. */
export class SolidBody {
  readonly surface: Mesh | null;
  readonly edges: LineSegments | null;
  readonly points: Points | null;

  constructor(
    readonly content: SolidTileContent,
    readonly origin: Vec3,
    materials: SolidMaterials,
  ) {
    const { positions, normals, triangles, objects, materials: own } = content;
    this.surface = null;
    if (triangles.length > 0) {
      const geometry = geometryOf(positions, objects, own);
      geometry.setAttribute('normal', new BufferAttribute(normals, 4, true));
      geometry.setIndex(new BufferAttribute(triangles, 1));
      this.surface = still(new Mesh(geometry, materials.plain));
    }
    const { edgePositions, edgeFaces, edgeOthers, edgeObjects, edgeMaterials } = content;
    this.edges = null;
    if (edgePositions.length > 0) {
      const geometry = geometryOf(edgePositions, edgeObjects, edgeMaterials);
      geometry.setAttribute('face', new BufferAttribute(edgeFaces, 4, true));
      geometry.setAttribute('other', new BufferAttribute(edgeOthers, 4, true));
      geometry.setAttribute('density', new BufferAttribute(content.edgeDensities, 1));
      this.edges = still(new LineSegments(geometry, materials.edges));
    }
    const { pointPositions, pointColours, pointObjects } = content;
    this.points = null;
    if (pointPositions.length > 0) {
      const geometry = new BufferGeometry();
      geometry.setAttribute('position', new BufferAttribute(pointPositions, 3));
      geometry.setAttribute('object', new BufferAttribute(pointObjects, 1));
      geometry.setAttribute('tone', new BufferAttribute(pointColours, 4, true));
      this.points = still(new Points(geometry, materials.points));
    }
  }

  get triangles(): number {
    return this.content.triangles.length / 3;
  }

  get pointCount(): number {
    return this.content.pointPositions.length / 3;
  }

  get segments(): number {
    return this.content.edgePositions.length / 6;
  }

  dispose(): void {
    this.surface?.geometry.dispose();
    this.edges?.geometry.dispose();
    this.points?.geometry.dispose();
  }
}

function geometryOf(
  positions: Float32Array<ArrayBuffer>,
  objects: Float32Array<ArrayBuffer>,
  materials: Float32Array<ArrayBuffer>,
): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setAttribute('object', new BufferAttribute(objects, 1));
  geometry.setAttribute('material', new BufferAttribute(materials, 1));
  return geometry;
}

/** Placed by the picture that draws it, never culled: that has been decided by then. */
function still<Body extends Mesh | LineSegments | Points>(body: Body): Body {
  body.frustumCulled = false;
  body.matrixAutoUpdate = false;
  body.matrixWorldAutoUpdate = false;
  return body;
}
