import {
  depthRange,
  eyeDistance,
  eyePoint,
  supportOfPoints,
  viewBack,
  type Support,
  type TileCamera,
  type ViewCamera,
} from '@bathyscope/core/camera';
import { boxCorners, boxDiagonal, dot, map3, subtract, type Box3 } from '@bathyscope/core/math';
import { OrthographicCamera, PerspectiveCamera, type Camera } from 'three';

/**
 * Share of the distance to the target below which a perspective clips: what is nearer fills
 * the screen many times over.
 */
const NEAREST = 0.01;
/** Share by which near and far planes stand clear of the model, so that rounding cuts nothing off. */
const CLEAR = 1e-3;
/** Of the model's diagonal. */
const SURROUNDINGS = 0.9;

/** The renderer's cameras for a view: near and far planes hold the whole model, wherever the target is. */
export class PaneCameras {
  private readonly orthographic = new OrthographicCamera();
  private readonly perspective = new PerspectiveCamera();
  private readonly reach: Support;

  /** Near and far reach beyond the model, so that the ground, grids and planes around it are not cut off. */
  constructor(box: Box3) {
    const around = boxDiagonal(box) * SURROUNDINGS;
    const min = map3(box.min, (x) => x - around);
    const max = map3(box.max, (x) => x + around);
    this.reach = supportOfPoints(boxCorners({ min, max }));
  }

  place(view: TileCamera, aspect: number): Camera {
    return view.projection === 'orthographic'
      ? this.placeOrthographic(view, aspect)
      : this.placePerspective(view, aspect);
  }

  private placeOrthographic(view: ViewCamera, aspect: number): Camera {
    const back = viewBack(view);
    const middle = dot(view.target, back);
    const slack = view.height * 0.01 + 1e-3;
    const near = this.reach(back) - middle;
    const far = this.reach(subtract([0, 0, 0], back)) + middle;
    const c = this.orthographic;
    c.top = view.height / 2;
    c.bottom = -c.top;
    c.right = c.top * aspect;
    c.left = -c.right;
    c.near = -(near * 1.0001 + slack);
    c.far = far * 1.0001 + slack;
    c.position.set(...view.target);
    c.quaternion.set(...view.orientation);
    c.updateProjectionMatrix();
    return c;
  }

  private placePerspective(view: TileCamera, aspect: number): Camera {
    const { near, far } = depthRange(view, this.reach);
    const c = this.perspective;
    c.fov = (view.lens * 180) / Math.PI;
    c.aspect = aspect;
    c.near = Math.max(near * (1 - CLEAR), eyeDistance(view) * NEAREST);
    c.far = Math.max(far * (1 + CLEAR), c.near * 2);
    c.position.set(...eyePoint(view));
    c.quaternion.set(...view.orientation);
    c.updateProjectionMatrix();
    // A tile off the middle of a picture: the frustum is shifted, the eye stays.
    const [x, y] = view.offset ?? [0, 0];
    c.projectionMatrix.elements[8] += 2 * x;
    c.projectionMatrix.elements[9] += 2 * y;
    c.projectionMatrixInverse.copy(c.projectionMatrix).invert();
    return c;
  }
}
