import type { LengthUnit } from '@bathyscope/core';
import { createStore } from 'zustand/vanilla';
import { persist } from 'zustand/middleware';

export type Theme = 'chart' | 'abyss';
export type Task = 'parts';

interface Settings {
  theme: Theme;
  unit: LengthUnit;
  /** The open task, or null when the panel is closed. */
  task: Task | null;
  panelWidth: number;
  stripFolded: boolean;
  setTheme: (theme: Theme) => void;
  setUnit: (unit: LengthUnit) => void;
  setTask: (task: Task | null) => void;
  setPanelWidth: (width: number) => void;
  setStripFolded: (folded: boolean) => void;
}

export const PANEL_MIN = 220;
export const PANEL_MAX = 520;

/** What a user set about the interface; kept in the browser. */
export const settingsStore = createStore<Settings>()(
  persist(
    (set) => ({
      theme: 'chart',
      unit: 'mm',
      task: 'parts',
      panelWidth: 288,
      stripFolded: false,
      setTheme: (theme) => set({ theme }),
      setUnit: (unit) => set({ unit }),
      setTask: (task) => set({ task }),
      setPanelWidth: (width) => set({ panelWidth: Math.min(PANEL_MAX, Math.max(PANEL_MIN, width)) }),
      setStripFolded: (stripFolded) => set({ stripFolded }),
    }),
    { name: 'bathyscope-settings' },
  ),
);

const showTheme = (theme: Theme): void => void (document.documentElement.dataset['theme'] = theme);
showTheme(settingsStore.getState().theme);
settingsStore.subscribe((s) => showTheme(s.theme));
