import type { Box3, Pane, ScreenComponent, Vec3, ViewCamera, ViewStyle } from '@bathyscope/core';
import type { Picked } from './selection-store.ts';

export interface PictureRequest {
  camera: ViewCamera;
  /** px */
  width: number;
  height: number;
  style?: ViewStyle;
  /** Of the picture; null leaves it transparent. */
  background: string | null;
  references?: boolean;
  type?: 'image/png' | 'image/jpeg';
  /** px of the picture for one px of the screen: how much wider lines are. */
  scale?: number;
}

/** What commands ask of the scene on the page. The scene hands it in; nothing below the scene knows more of it. */
export interface ScenePort {
  view: {
    picking: {
      shownBox(): Box3;
      shownPaths(): string[];
      readonly placedMeshes: readonly ScreenComponent[];
      standingBefore(item: Picked): string[];
      through(x: number, y: number): Picked[];
      firstFace(camera: ViewCamera, size: Pane, point: Vec3): Picked | null;
    };
    section: { askExact(): void };
    picture(request: PictureRequest): Promise<Blob>;
    afterFrame: (() => void) | null;
    invalidate(): void;
  };
  navigator: { centre(point: Vec3): ViewCamera };
}

/** Largest side of a picture, px. */
export const LARGEST_PICTURE = 8192;
