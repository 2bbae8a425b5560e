/** How a pane or a component is drawn: independent choices, each on its own. */
export interface ViewStyle {
  surface: 'none' | 'plain' | 'material' | 'tint' | 'see-through';
  /** Lit by a studio: whose colour goes first, where both the file and the material have one. */
  colours: 'file' | 'material';
  edges: boolean;
  /** px on screen, 1…4. */
  edgeWeight: number;
  /** What lies behind: not drawn, thin, dashed, or as if it lay in front. */
  hiddenEdges: 'off' | 'thin' | 'dashed' | 'full';
  /** Where faces meet tangentially. */
  smoothEdges: 'off' | 'thin' | 'on';
  /** The contour of curved faces. */
  outlines: boolean;
  stroke: 'ruled' | 'hand-drawn';
  /**
   * Cut faces: hatched in a light tint of their component's colour, in that colour
   * itself, or all in one tint.
   */
  caps: 'hatched' | 'plain' | 'tinted';
  shadow: boolean;
  ground: boolean;
  background: 'theme' | 'white' | 'grey' | 'dark';
  /** The triangles that faces are drawn with. */
  triangles: boolean;
  /** Edges with a face on one side only. */
  openEdges: boolean;
}

const BASE: ViewStyle = {
  surface: 'plain',
  colours: 'file',
  edges: true,
  edgeWeight: 1,
  hiddenEdges: 'off',
  smoothEdges: 'off',
  outlines: false,
  stroke: 'ruled',
  caps: 'hatched',
  shadow: false,
  ground: false,
  background: 'theme',
  triangles: false,
  openEdges: false,
};

export interface StylePreset {
  id: string;
  name: string;
  style: ViewStyle;
}

/** The presets, named by what they are for. The first is the default. */
export const STYLE_PRESETS: readonly StylePreset[] = [
  { id: 'work', name: 'Work', style: BASE },
  { id: 'look-through', name: 'Look through', style: { ...BASE, hiddenEdges: 'dashed', outlines: true } },
  {
    id: 'line',
    name: 'Line drawing',
    style: { ...BASE, surface: 'none', outlines: true, background: 'white' },
  },
  {
    id: 'line-dashed',
    name: 'Line drawing, dashed',
    style: { ...BASE, surface: 'none', outlines: true, hiddenEdges: 'dashed', background: 'white' },
  },
  {
    id: 'wireframe',
    name: 'Wireframe',
    style: { ...BASE, surface: 'none', outlines: true, hiddenEdges: 'full' },
  },
  {
    id: 'catalogue',
    name: 'Catalogue',
    style: {
      ...BASE,
      surface: 'material',
      edges: false,
      caps: 'plain',
      shadow: true,
      ground: true,
      background: 'white',
    },
  },
  {
    id: 'handout',
    name: 'Handout',
    style: {
      ...BASE,
      surface: 'tint',
      edgeWeight: 1,
      outlines: true,
      stroke: 'hand-drawn',
      background: 'white',
    },
  },
];

export const DEFAULT_STYLE: StylePreset = STYLE_PRESETS[0];

const CHOICES: {
  [K in keyof ViewStyle]: ViewStyle[K] extends boolean
    ? 'boolean'
    : ViewStyle[K] extends number
      ? 'number'
      : readonly ViewStyle[K][];
} = {
  surface: ['none', 'plain', 'material', 'tint', 'see-through'],
  colours: ['file', 'material'],
  edges: 'boolean',
  edgeWeight: 'number',
  hiddenEdges: ['off', 'thin', 'dashed', 'full'],
  smoothEdges: ['off', 'thin', 'on'],
  outlines: 'boolean',
  stroke: ['ruled', 'hand-drawn'],
  caps: ['hatched', 'plain', 'tinted'],
  shadow: 'boolean',
  ground: 'boolean',
  background: ['theme', 'white', 'grey', 'dark'],
  triangles: 'boolean',
  openEdges: 'boolean',
};

/** A style from stored values; what is missing or unknown is as in Work. */
export function readStyle(values: unknown): ViewStyle {
  const source = (typeof values === 'object' && values !== null ? values : {}) as Record<string, unknown>;
  const entries = Object.entries(CHOICES).map(([key, allowed]) => {
    const value = source[key];
    const fits = Array.isArray(allowed)
      ? allowed.includes(value as never)
      : typeof value === allowed &&
        (allowed !== 'number' ||
          (Number.isFinite(value) && (value as number) >= 1 && (value as number) <= 4));
    return [key, fits ? value : BASE[key as keyof ViewStyle]];
  });
  return Object.fromEntries(entries) as unknown as ViewStyle;
}

export const sameStyle = (a: ViewStyle, b: ViewStyle): boolean =>
  (Object.keys(BASE) as (keyof ViewStyle)[]).every((k) => a[k] === b[k]);

/** The preset with exactly these choices, or null. */
export const presetOfStyle = (
  style: ViewStyle,
  presets: readonly StylePreset[] = STYLE_PRESETS,
): StylePreset | null => presets.find((p) => sameStyle(p.style, style)) ?? null;
