import { api } from '../api/api.ts';
import { type Settings } from '../state/settings-store.ts';
import type { Profile } from './workspace.ts';

/** ms without a change after which settings are kept. */
const KEEP_AFTER = 600;

const valuesOf = ({ change: _, ...values }: Settings): Record<string, unknown> => ({ ...values });

/** Brings the user's settings from the server, and keeps later changes there. Without a server the browser's copy goes on. */
export async function keepSettings(profile: Profile): Promise<void> {
  const before = valuesOf(profile.getState());
  const { values } = await api.settings().catch(() => ({ values: null }));
  // Only what this version knows; a setting changed meanwhile stays.
  if (values && JSON.stringify(before) === JSON.stringify(valuesOf(profile.getState())))
    profile
      .getState()
      .change(Object.fromEntries(Object.entries(values).filter(([key, v]) => key in before && typeof v === typeof before[key])));
  let timer: ReturnType<typeof setTimeout> | undefined;
  profile.subscribe((s) => {
    clearTimeout(timer);
    timer = setTimeout(() => void api.saveSettings(valuesOf(s)).catch(() => {}), KEEP_AFTER);
  });
}
