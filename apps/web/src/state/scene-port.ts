import type { ViewCamera } from '@bathyscope/core/camera';
import type { ViewStyle } from '@bathyscope/core/style';

export interface PictureRequest {
  camera: ViewCamera;
  /** px */
  width: number;
  height: number;
  style?: ViewStyle;
  /** Of the picture; null leaves it transparent. */
  background: string | null;
  references?: boolean;
  /** The section does not cut in it. */
  uncut?: boolean;
  type?: 'image/png' | 'image/jpeg';
  /** px of the picture for one px of the screen: how much wider lines are. */
  scale?: number;
}

/**
 * What commands ask of the scene on the page: what only it can do. The scene hands itself in; nothing below
 * it knows more of it.
 */
export interface ScenePort {
  picture(request: PictureRequest): Promise<Blob>;
  /** Called right after a frame was drawn, while its pixels can be read. */
  afterFrame: (() => void) | null;
  invalidate(): void;
}

/** Largest side of a picture, px. */
export const LARGEST_PICTURE = 8192;
