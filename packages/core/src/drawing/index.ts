export { meshEdges, triangleEdges, type MeshEdges } from './mesh-edges.ts';
export { capTriangles, type DrawnCap, type DrawnSection } from './drawn-section.ts';
export { hiddenLineDrawing, type DrawnComponent, type HiddenLineOptions } from './hidden-lines.ts';
export * from './drawing.ts';
export { withDimensions } from './drawing-dimensions.ts';
export { writeSvg, type SheetOptions } from './write-svg.ts';
export { plainCurves, wholeTurnDegrees, type PlainCurves } from './plain-curves.ts';
export * from './cut-drawing.ts';
export { xmlText, type SheetMap } from './svg-sheet.ts';
