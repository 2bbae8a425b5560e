import type { WallMap } from '@bathyscope/core/walls';
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  Group,
  Mesh,
  MeshBasicMaterial,
  SRGBColorSpace,
  type Plane,
} from 'three';
import { storedPlacement } from '../../workspace/picking/placed-points.ts';
import { wallColour } from '../../workspace/measuring/walls.ts';
import type { Workspace } from '../../workspace/workspace.ts';

/** The colours of walls, drawn over the part they belong to. */
export class WallScene {
  readonly group = new Group();
  private readonly material = new MeshBasicMaterial({
    vertexColors: true,
    polygonOffset: true,
    polygonOffsetFactor: -1,
    polygonOffsetUnits: -2,
  });
  private readonly ws: Workspace;

  constructor(ws: Workspace) {
    this.ws = ws;
  }

  setClips(clips: Plane[], all: boolean): void {
    this.material.clippingPlanes = clips;
    this.material.clipIntersection = all;
  }

  /** @param visible whether a component is drawn at all */
  show(visible: (path: string) => boolean): void {
    this.clear();
    const { map, component } = this.ws.wall.getState();
    const { byPath, parts } = this.ws.model.getState();
    const occurrence = component ? byPath.get(component) : undefined;
    if (!map || occurrence?.part === undefined || !visible(occurrence.path)) return;
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(map.corners, 3));
    geometry.setAttribute('color', new BufferAttribute(coloursOf(map), 3));
    const mesh = new Mesh(geometry, this.material);
    mesh.matrixAutoUpdate = false;
    mesh.matrix.fromArray(storedPlacement(occurrence.placement, parts.get(occurrence.part)!.geometry.origin));
    mesh.frustumCulled = false;
    mesh.renderOrder = 5;
    this.group.add(mesh);
  }

  private clear(): void {
    for (const object of [...this.group.children]) {
      (object as Mesh).geometry.dispose();
      this.group.remove(object);
    }
  }

  dispose(): void {
    this.clear();
    this.material.dispose();
  }
}

function coloursOf({ thickness, range }: WallMap): Float32Array {
  const colours = new Float32Array(9 * thickness.length);
  const colour = new Color();
  thickness.forEach((t, i) => {
    colour.setRGB(...wallColour(t, range), SRGBColorSpace);
    for (let k = 0; k < 3; k++) colours.set([colour.r, colour.g, colour.b], 9 * i + 3 * k);
  });
  return colours;
}
