import { pixelSizeAt, type Pane, type ViewCamera } from '@bathyscope/core/camera';
import { componentColour } from '@bathyscope/core/colours';
import { MATERIAL_TONES } from '@bathyscope/core/mass';
import type { Vec3 } from '@bathyscope/core/math';
import { fromPlane } from '@bathyscope/core/section';
import type { ViewStyle } from '@bathyscope/core/style';
import { stateOf } from '@bathyscope/core/visibility';
import {
  BufferGeometry,
  Float32BufferAttribute,
  BufferAttribute,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  Scene,
} from 'three';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import type { PlaneCut } from '../../state/cut-store.ts';
import { CAP_LOOKS, capMaterial } from './cap-material.ts';
import { displayColour } from '../batches/materials.ts';
import type { CapBuffers } from '../../workers/section-work.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { appearanceOf } from '../../workspace/mass/given-materials.ts';
import { hatchOf } from '../../workspace/cutting/hatches.ts';

/** px */
const OUTLINE_WIDTH = 2;
/** Principal axes are drawn so long, relative to the root of the cut's area. */
const AXIS_LENGTH = 0.75;

/** Cut faces that are all alike. */
const TINT = { day: '#7fa9bb', night: '#2f6480' };

/**
 * The closed, hatched faces that section planes leave, each in its component's
 * colour: two draw calls a plane.
 */
export class SectionCaps {
  private readonly ws: Workspace;
  readonly scene = new Scene();
  private readonly group = new Group();
  private readonly marks = new Group();
  private readonly cap = capMaterial();
  private readonly line = new LineMaterial({ linewidth: OUTLINE_WIDTH });
  private readonly axes = new LineBasicMaterial({ depthTest: false });

  constructor(ws: Workspace) {
    this.ws = ws;
    this.scene.add(this.group, this.marks);
  }

  setColours(ink: string, mark: string): void {
    this.line.color.copy(displayColour(ink)).convertSRGBToLinear();
    this.axes.color.copy(displayColour(mark)).convertSRGBToLinear();
  }

  show(planes: readonly PlaneCut[]): void {
    empty(this.group);
    for (const { buffers } of planes) {
      if (!buffers) continue;
      if (buffers.indices.length)
        this.group.add(placed(new Mesh(capGeometry(this.ws, buffers), this.cap), buffers.base));
      if (buffers.outlines.length)
        this.group.add(
          placed(
            new LineSegments2(new LineSegmentsGeometry().setPositions(buffers.outlines), this.line),
            buffers.base,
          ),
        );
    }
  }

  /** Centroid and principal axes of each plane's whole cut. */
  showAxes(
    marks: readonly {
      frame: PlaneCut['frame'];
      centroid: readonly [number, number];
      angle: number;
      area: number;
    }[],
  ): void {
    empty(this.marks);
    for (const { frame, centroid, angle, area } of marks) {
      const length = AXIS_LENGTH * Math.sqrt(area);
      const positions = [0, Math.PI / 2].flatMap((turn, i) => {
        const [c, s] = [Math.cos(angle + turn), Math.sin(angle + turn)];
        // The axis of the larger moment is the longer one.
        const reach = length * (i ? 0.6 : 1);
        return [-1, 1].flatMap((sign) =>
          fromPlane(frame, [centroid[0] + sign * reach * c, centroid[1] + sign * reach * s]),
        );
      });
      const g = new BufferGeometry();
      g.setAttribute('position', new Float32BufferAttribute(positions, 3));
      this.marks.add(placed(Object.assign(new LineSegments(g, this.axes), { renderOrder: 5 }), [0, 0, 0]));
    }
  }

  /** Hatches have one spacing on the screen; on a dark ground cut faces are dark. */
  prepare(
    camera: ViewCamera,
    pane: Pane,
    scale: number,
    style: Pick<ViewStyle, 'caps' | 'surface' | 'colours'>,
    night: boolean,
  ): void {
    const { pxPerMm, look, night: dark, tint, materialTone } = this.cap.uniforms;
    pxPerMm.value = 1 / (pixelSizeAt(camera, pane, camera.target) * scale);
    look.value = CAP_LOOKS[style.caps];
    // 0: never the material's colour; 1: where there is no other; 2: first.
    materialTone.value = style.surface !== 'material' ? 0 : style.colours === 'material' ? 2 : 1;
    dark.value = night;
    tint.value = displayColour(night ? TINT.night : TINT.day);
    this.line.resolution.set(pane.width, pane.height);
    this.line.linewidth = OUTLINE_WIDTH * scale;
  }

  dispose(): void {
    empty(this.group);
    empty(this.marks);
    [this.cap, this.line, this.axes].forEach((m) => m.dispose());
  }
}

function placed<T extends Mesh | LineSegments>(object: T, at: Vec3): T {
  object.position.set(...at);
  object.frustumCulled = false;
  return object;
}

function empty(group: Group): void {
  for (const object of [...group.children]) (object as Mesh).geometry.dispose();
  group.clear();
}

function capGeometry(
  ws: Workspace,
  { positions, inPlane, thickness, indices, ranges }: CapBuffers,
): BufferGeometry {
  const { components } = ws.model.getState();
  const { states } = ws.visibility.getState();
  const count = thickness.length;
  const colours = new Float32Array(3 * count);
  const materials = new Float32Array(4 * count);
  const hatch = new Float32Array(3 * count);
  for (let r = 0; r < ranges.length; r += 3) {
    const component = components[ranges[r]];
    const colour = componentColour(component, stateOf(states, component.path));
    const { tone, colourless } = appearanceOf(ws, component);
    const material = tone < 0 ? [0, 0, 0, 0] : [...MATERIAL_TONES[tone], colourless ? 2 : 1];
    const { angle, spacing } = hatchOf(ws, component.part);
    for (let i = ranges[r + 1]; i < ranges[r + 1] + ranges[r + 2]; i++) {
      colours.set(colour, 3 * i);
      materials.set(material, 4 * i);
      hatch.set([angle, spacing, thickness[i]], 3 * i);
    }
  }
  const g = new BufferGeometry();
  g.setAttribute('position', new BufferAttribute(positions, 3));
  g.setAttribute('inPlane', new BufferAttribute(inPlane, 2));
  g.setAttribute('tone', new BufferAttribute(colours, 3));
  g.setAttribute('material', new BufferAttribute(materials, 4));
  g.setAttribute('hatch', new BufferAttribute(hatch, 3));
  g.setIndex(new BufferAttribute(indices, 1));
  return g;
}
