import { pixelSizeAt, type Hinge, type Pane, type ViewCamera } from '@bathyscope/core/camera';
import { scale, type Vec3 } from '@bathyscope/core/math';
import { BufferGeometry, Float32BufferAttribute, Group, LineBasicMaterial, LineSegments } from 'three';
import { displayColour } from '../batches/materials.ts';

/** px from the middle of the pivot mark to its ends. */
const MARK_SIZE = 10;

/** The pivot while orbiting, and the hinge while there is one; drawn over everything. */
export class SceneMarks {
  readonly group = new Group();
  private readonly material = new LineBasicMaterial({ depthTest: false });
  private readonly pivot: LineSegments;
  private readonly hinge: LineSegments;
  private at: Vec3 = [0, 0, 0];

  constructor() {
    this.pivot = this.lines([
      -1, 0, 0, -0.3, 0, 0, 0.3, 0, 0, 1, 0, 0, 0, -1, 0, 0, -0.3, 0, 0, 0.3, 0, 0, 1, 0, 0, 0, -1, 0, 0,
      -0.3, 0, 0, 0.3, 0, 0, 1,
    ]);
    this.hinge = this.lines([0, 0, 0, 0, 0, 0]);
  }

  private lines(positions: number[]): LineSegments {
    const g = new BufferGeometry();
    g.setAttribute('position', new Float32BufferAttribute(positions, 3));
    const lines = new LineSegments(g, this.material);
    lines.renderOrder = 30;
    lines.visible = false;
    lines.frustumCulled = false;
    this.group.add(lines);
    return lines;
  }

  setColour(hex: string): void {
    this.material.color.copy(displayColour(hex)).convertSRGBToLinear();
  }

  showPivot(visible: boolean, at: Vec3): void {
    this.pivot.visible = visible;
    this.at = at;
  }

  /** Drawn as a line of the given length through the hinge's point. */
  showHinge(hinge: Hinge | null, length: number): void {
    this.hinge.visible = hinge !== null;
    if (!hinge) return;
    const position = this.hinge.geometry.getAttribute('position');
    position.setXYZ(0, ...(scale(hinge.axis, -length) as [number, number, number]));
    position.setXYZ(1, ...(scale(hinge.axis, length) as [number, number, number]));
    position.needsUpdate = true;
    this.hinge.position.set(...hinge.origin);
  }

  /** The pivot mark has the same size on the screen in every pane. */
  prepare(camera: ViewCamera, pane: Pane): void {
    this.pivot.scale.setScalar(pixelSizeAt(camera, pane, this.at) * MARK_SIZE);
    this.pivot.position.set(...this.at);
  }

  dispose(): void {
    this.pivot.geometry.dispose();
    this.hinge.geometry.dispose();
    this.material.dispose();
  }
}
