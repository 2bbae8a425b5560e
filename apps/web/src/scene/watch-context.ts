/**
 * Follows what the browser does with a canvas's graphics context: it may take it away at any time, and give
 * it back. @returns what ends it
 */
export function watchContext(
  canvas: HTMLCanvasElement,
  onLost: () => void,
  onRestored: () => void,
): () => void {
  const lost = (e: Event) => {
    // Says that the context is wanted back.
    e.preventDefault();
    onLost();
  };
  canvas.addEventListener('webglcontextlost', lost);
  canvas.addEventListener('webglcontextrestored', onRestored);
  return () => {
    canvas.removeEventListener('webglcontextlost', lost);
    canvas.removeEventListener('webglcontextrestored', onRestored);
  };
}
