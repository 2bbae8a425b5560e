import type { UpAxis } from '@bathyscope/core/camera';
import { carryState } from '@bathyscope/core/revisions';
import { understoodViewState, type ViewState } from '@bathyscope/core/view-state';
import { z } from 'zod';
import { recordKind, type RecordKind } from './record-kind.ts';

/* What is set about a model itself: one of each. */

export interface UpAxisSetting {
  axis: UpAxis;
}

export const upAxis: RecordKind<UpAxisSetting> = recordKind({
  name: 'up-axis',
  version: 1,
  document: z.object({ axis: z.enum(['y', 'z']) }),
  key: () => '',
  title: () => 'up axis',
});

/** A view state; null where there is none, or none that this version understands: it stays as it is. */
const view = z.unknown().transform((document): ViewState | null => {
  try {
    return document ? understoodViewState(document) : null;
  } catch {
    return null;
  }
});

/**
 * Where Home leads: a view instead of the isometric one, and whether it frames what is visible
 * instead of the whole model.
 */
export interface HomeSetting {
  view: ViewState | null;
  framesVisible: boolean;
}

/** Where nothing was set. */
export const PLAIN_HOME: HomeSetting = { view: null, framesVisible: true };

export const home: RecordKind<HomeSetting> = recordKind({
  name: 'home',
  version: 1,
  carried: (setting, to) => ({ ...setting, view: setting.view && carryState(setting.view, to) }),
  document: z.object({ view, framesVisible: z.boolean().catch(true) }),
  key: () => '',
  title: () => 'Home',
});
