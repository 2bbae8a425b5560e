import { tileOf, type ViewCamera } from '@bathyscope/core/camera';
import { RGBAFormat, UnsignedByteType, WebGLRenderTarget, type WebGLRenderer } from 'three';
import { setMultisampled } from '../batches/materials.ts';
import type { PictureRequest } from '../../state/scene-port.ts';
/** px: pictures are drawn in tiles, for no graphics card draws them whole. */
const TILE = 2048;

type DrawTile = (camera: ViewCamera, size: { width: number; height: number; scale: number }) => void;

/** Draws a picture tile by tile into pixels. The pixels are taken before anything is waited for. */
export function takePicture(
  renderer: WebGLRenderer,
  request: PictureRequest,
  draw: DrawTile,
  after: () => void,
): Promise<Blob> {
  const { width, height } = request;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')!;
  renderer.setScissorTest(false);
  setMultisampled(true);
  for (let y = 0; y < height; y += TILE)
    for (let x = 0; x < width; x += TILE) {
      const tile = { x, y, width: Math.min(TILE, width - x), height: Math.min(TILE, height - y) };
      const target = new WebGLRenderTarget(tile.width, tile.height, {
        format: RGBAFormat,
        type: UnsignedByteType,
        samples: 4,
      });
      renderer.setRenderTarget(target);
      draw(tileOf(request.camera, { width, height }, tile), {
        width: tile.width,
        height: tile.height,
        scale: request.scale ?? 1,
      });
      const pixels = new Uint8Array(4 * tile.width * tile.height);
      renderer.readRenderTargetPixels(target, 0, 0, tile.width, tile.height, pixels);
      target.dispose();
      context.putImageData(imageOf(pixels, tile.width, tile.height), tile.x, tile.y);
    }
  renderer.setRenderTarget(null);
  setMultisampled(renderer.getContextAttributes()?.antialias === true);
  after();
  return canvas.convertToBlob({ type: request.type ?? 'image/png', quality: 0.93 });
}

/** Rows as WebGL reads them, the lowest first; colours as drawn over nothing. */
function imageOf(pixels: Uint8Array, width: number, height: number): ImageData {
  const image = new ImageData(width, height);
  for (let row = 0; row < height; row++)
    image.data.set(pixels.subarray(4 * width * row, 4 * width * (row + 1)), 4 * width * (height - 1 - row));
  return image;
}
