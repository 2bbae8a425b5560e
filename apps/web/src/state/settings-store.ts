import { DEFAULT_LENS } from '@bathyscope/core/camera';
import type { StylePreset } from '@bathyscope/core/style';
import { PLAIN_PRECISION, type LengthUnit, type UnitStyle } from '@bathyscope/core/units';
import { createStore } from './tracked-store.ts';
import { persist } from 'zustand/middleware';
import type { GestureAction } from './gestures.ts';
/** Columns of the parts table beside the name. */
export type PartColumn = 'quantity' | 'material' | 'mass' | 'size';
export type Theme = 'chart' | 'abyss';
export type Task = 'parts' | 'views' | 'style' | 'section' | 'measure' | 'mass';
/** Where the model turns about when a drag starts. */
export type PivotPolicy = 'kept' | 'cursor' | 'picked' | 'centre';

export interface Settings {
  theme: Theme;
  unit: LengthUnit;
  /** Decimals of a millimetre. */
  precision: number;
  inches: UnitStyle['inches'];
  angles: UnitStyle['angles'];
  /** Where the figure of what is under the cursor is told, before a click. */
  probe: 'line' | 'cursor' | 'off';
  /** A second unit that leading lengths are told in. */
  secondUnit: LengthUnit | 'none';
  /** The open task, or null when the panel is closed. */
  task: Task | null;
  panelWidth: number;
  stripFolded: boolean;
  gesturePreset: string;
  /** By gesture preset: what this user bound otherwise, by the gesture's name. */
  ownGestures: Record<string, Record<string, GestureAction>>;
  /** Names of zoom gestures that go the other way. */
  invertedZooms: string[];
  /** 1 is the usual speed. */
  zoomSpeed: number;
  /** Keys this user gave to commands, by their id. */
  ownKeys: Record<string, string>;
  orbitMode: 'turntable' | 'free';
  pivotPolicy: PivotPolicy;
  /** The pivot glides to the middle of the pane while orbiting. */
  pivotGlides: boolean;
  /** rad, for models that are opened anew. */
  lens: number;
  arrangement: 'first angle' | 'third angle';
  /** Ids of the commands in the strip in the scene. */
  pinned: string[];
  helm: boolean;
  /** s that the tour stays at a view. */
  tourPace: number;
  /** s that a section takes from one end of the model to the other when it is swept. */
  sweepSeconds: number;
  /** Parts as a flat list instead of the tree. */
  flatParts: boolean;
  /** In their order. */
  partColumns: PartColumn[];
  /** px, of those that were made wider or narrower. */
  partWidths: Partial<Record<PartColumn, number>>;
  /** Styles this user saved. */
  ownStyles: StylePreset[];
  /** Multisampled edges; off on weak machines. */
  smoothEdges: boolean;
  change: (values: Partial<Settings>) => void;
}

export const PANEL_MIN = 220;
export const PANEL_MAX = 520;

/**
 * What a user set about the interface. The browser's copy shows at once; the server's, which is the user's
 * own, follows (`keep-settings.ts`).
 */
export const createProfileState = () =>
  createStore<Settings>()(
    persist(
      (set) => ({
        theme: 'chart',
        unit: 'mm',
        precision: PLAIN_PRECISION,
        inches: 'decimal',
        angles: 'degrees',
        probe: 'line',
        secondUnit: 'none',
        task: 'parts',
        panelWidth: 288,
        stripFolded: false,
        gesturePreset: 'right',
        ownGestures: {},
        invertedZooms: [],
        zoomSpeed: 1,
        ownKeys: {},
        orbitMode: 'turntable',
        pivotPolicy: 'kept',
        pivotGlides: false,
        lens: DEFAULT_LENS,
        arrangement: 'third angle',
        pinned: [],
        helm: false,
        tourPace: 2.5,
        sweepSeconds: 6,
        flatParts: false,
        partColumns: [],
        partWidths: {},
        ownStyles: [],
        smoothEdges: true,
        change: ({ panelWidth, ...values }) =>
          set({
            ...values,
            ...(panelWidth !== undefined && {
              panelWidth: Math.min(PANEL_MAX, Math.max(PANEL_MIN, panelWidth)),
            }),
          }),
      }),
      { name: 'bathyscope-settings' },
    ),
  );

/** How figures are told. */
export const unitStyleOf = ({ unit, precision, inches, angles, secondUnit }: Settings): UnitStyle => ({
  unit,
  precision,
  inches,
  angles,
  second: secondUnit === 'none' || secondUnit === unit ? null : secondUnit,
});
