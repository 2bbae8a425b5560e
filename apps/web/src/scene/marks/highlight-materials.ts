import { PointsMaterial, type Plane } from 'three';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { displayColour, veilMaterial } from '../batches/materials.ts';

export interface HighlightStyle {
  colour: string;
  /** Of the veil over faces. */
  opacity: number;
  /** px */
  lineWidth: number;
}

/**
 * What highlights are drawn with. Kept while the scene lives: with the last material that uses it the
 * graphics card forgets a program, and would have to compile it again at every move of the mouse.
 */
export class HighlightMaterials {
  readonly veil = veilMaterial('#ffffff', 0);
  readonly line = new LineMaterial({ depthTest: true, transparent: true });
  readonly dot = new PointsMaterial({ size: 9, sizeAttenuation: false, depthTest: false });

  constructor() {
    // Pulled to the eye, so that a wide line is not half sunk into the faces beside it.
    this.line.polygonOffset = true;
    this.line.polygonOffsetFactor = -2;
    this.line.polygonOffsetUnits = -4;
  }

  setStyle({ colour, opacity, lineWidth }: HighlightStyle): void {
    this.veil.uniforms['colour'].value = displayColour(colour);
    this.veil.uniforms['opacity'].value = opacity;
    this.line.linewidth = lineWidth;
    for (const { color } of [this.line, this.dot]) color.copy(displayColour(colour)).convertSRGBToLinear();
  }

  setClips(clips: Plane[], all: boolean): void {
    for (const material of [this.veil, this.line, this.dot]) {
      material.clippingPlanes = clips;
      material.clipIntersection = all;
    }
  }

  dispose(): void {
    for (const material of [this.veil, this.line, this.dot]) material.dispose();
  }
}
