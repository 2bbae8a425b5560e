export {
  migrateViewState,
  understoodViewState,
  VIEW_STATE_VERSION,
  ViewStateError,
  type CameraPart,
  type HingePart,
  type PanePart,
  type PanesPart,
  type ViewState,
} from './view-state.ts';
export { mergeKept } from './merge-kept.ts';
