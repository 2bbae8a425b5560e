import { ROUNDING } from '@bathyscope/core/tolerances';
import type { ViewStyle } from '@bathyscope/core/style';
import type { ShaderMaterial } from 'three';
import { displayColour, lineMaterial } from '../batches/materials.ts';
import type { BatchKind } from '../batches/model-scene.ts';

/** One way of drawing one kind of line. */
export interface LinePass {
  kind: BatchKind;
  where: 'front' | 'behind';
  colour: string;
  opacity: number;
  /** px */
  weight: number;
  /** px; 0 draws through */
  dash: number;
  /** px that a stroke by hand is off */
  wobble: number;
  /** On shaded faces, where lines of dark parts are light. */
  onFaces: boolean;
}

const DASH = 9;
const WOBBLE = 1.3;

/** The line passes that a style asks for, in the order they are drawn: what lies behind first. */
export function linePassesOf(style: ViewStyle, ink: string): LinePass[] {
  const wobble = style.stroke === 'hand-drawn' ? WOBBLE : 0;
  const line = (kind: BatchKind, where: 'front' | 'behind', values: Partial<LinePass> = {}): LinePass => ({
    kind,
    where,
    colour: ink,
    opacity: 1,
    weight: style.edgeWeight,
    dash: 0,
    wobble,
    onFaces: where === 'front' && (style.surface === 'plain' || style.surface === 'material'),
    ...values,
  });
  const kinds: BatchKind[] = [
    ...(style.edges ? (['sharp'] as const) : []),
    ...(style.outlines ? (['outlines'] as const) : []),
  ];
  const passes: LinePass[] = [];
  if (style.hiddenEdges === 'thin')
    passes.push(...kinds.map((k) => line(k, 'behind', { opacity: 0.35, weight: 1 })));
  if (style.hiddenEdges === 'dashed')
    passes.push(...kinds.map((k) => line(k, 'behind', { opacity: 0.55, weight: 1, dash: DASH })));
  if (style.hiddenEdges === 'full') passes.push(...kinds.map((k) => line(k, 'behind')));
  if (style.smoothEdges !== 'off')
    passes.push(line('smooth', 'front', style.smoothEdges === 'thin' ? { opacity: 0.35, weight: 1 } : {}));
  passes.push(...kinds.map((k) => line(k, 'front')));
  if (style.triangles) passes.push(line('triangles', 'front', { opacity: 0.4, weight: 1, wobble: 0 }));
  if (style.openEdges)
    passes.push(
      line('open', 'behind', { colour: '#e0452f', weight: 2, wobble: 0, dash: DASH }),
      line('open', 'front', { colour: '#e0452f', weight: 3, wobble: 0, onFaces: false }),
    );
  return passes;
}

/** Where a line is drawn again to be so many px wide: on rings half a pixel apart. */
export function shiftsFor(weight: number): [number, number][] {
  const shifts: [number, number][] = [[0, 0]];
  for (let r = 0.5; r <= (weight - 1) / 2 + ROUNDING; r += 0.5) {
    const count = Math.max(4, Math.ceil(2 * Math.PI * r));
    for (let i = 0; i < count; i++)
      shifts.push([r * Math.cos((2 * Math.PI * i) / count), r * Math.sin((2 * Math.PI * i) / count)]);
  }
  return shifts;
}

/** The materials of line passes: two for edges, two for outlines; a pass only sets their numbers. */
export class LineMaterials {
  private readonly materials = new Map<string, ShaderMaterial>();

  of({ kind, where }: LinePass): ShaderMaterial {
    const outline = kind === 'outlines';
    const key = `${where} ${outline}`;
    let material = this.materials.get(key);
    if (!material) this.materials.set(key, (material = lineMaterial(where, outline)));
    return material;
  }

  /** `scale`: px of the picture for one px of the screen. */
  set(
    pass: LinePass,
    width: number,
    height: number,
    scale: number,
    drawnAs: number,
    style: number,
  ): ShaderMaterial {
    const material = this.of(pass);
    const u = material.uniforms;
    u['colour'].value = displayColour(pass.colour);
    u['opacity'].value = pass.opacity;
    u['dash'].value = pass.dash * scale;
    u['wobble'].value = pass.wobble * scale;
    u['contrast'].value = pass.onFaces ? 1 : 0;
    u['passClass'].value = drawnAs;
    u['passStyle'].value = style;
    u['viewport'].value.set(width, height);
    return material;
  }

  dispose(): void {
    for (const material of this.materials.values()) material.dispose();
  }
}
