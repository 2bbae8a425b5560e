export { CHART_PALETTE, componentColour, fromHex, mostOf, partColour } from './chart-palette.ts';
