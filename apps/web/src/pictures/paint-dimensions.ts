import { TEXT_SIZE, type DimensionMarks } from '@bathyscope/core/measure';

/** Chart magenta: what is measured, whatever the theme. */
const COLOUR = '#a3195b';

/** Draws dimensions on a picture. @param scale of lines and texts */
export function paintDimensions(
  context: OffscreenCanvasRenderingContext2D,
  marks: readonly DimensionMarks[],
  scale: number,
): void {
  for (const { kind, colour = COLOUR, lines, arrows, dots, label } of marks) {
    context.strokeStyle = context.fillStyle = colour;
    context.lineWidth = 1.2 * scale;
    context.setLineDash(kind === 'least' ? [3 * scale, 3 * scale] : []);
    for (const [from, to] of lines) {
      context.beginPath();
      context.moveTo(...from);
      context.lineTo(...to);
      context.stroke();
    }
    context.setLineDash([]);
    for (const [tip, p, q] of arrows) {
      context.beginPath();
      context.moveTo(...tip);
      context.lineTo(...p);
      context.lineTo(...q);
      context.closePath();
      context.fill();
    }
    for (const [x, y] of dots) {
      context.beginPath();
      context.arc(x, y, (kind === 'place' ? 7 : 2.5) * scale, 0, 2 * Math.PI);
      if (kind === 'place') context.stroke();
      else context.fill();
    }
    if (!label) continue;
    context.fillStyle = 'rgba(255, 255, 255, 0.9)';
    context.fillRect(label.x - label.width / 2, label.y - label.height / 2, label.width, label.height);
    context.fillStyle = colour;
    context.font = `${TEXT_SIZE * scale}px "IBM Plex Mono", monospace`;
    context.textAlign = 'center';
    context.textBaseline = 'middle';
    context.fillText(label.text, label.x, label.y);
  }
}
