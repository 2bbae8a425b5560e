import { api } from '../api/api.ts';
import { readSettings, settingsOf } from './habits.ts';
import type { Profile } from './workspace.ts';

/** ms without a change after which settings are kept. */
const KEEP_AFTER = 600;

/** Brings the profile's settings from the server, and keeps later changes there. Without a server the browser's copy goes on. */
export async function keepSettings(profile: Profile): Promise<void> {
  const before = JSON.stringify(settingsOf(profile.getState()));
  // A browser without a profile gets one before anything is kept, so that all of it is kept under one.
  const values = await api
    .profile()
    .then(() => api.settings())
    .then(
      (answer) => answer.values,
      () => null,
    );
  // A setting changed meanwhile stays.
  if (values && before === JSON.stringify(settingsOf(profile.getState()))) profile.getState().change(readSettings(values));
  let timer: ReturnType<typeof setTimeout> | undefined;
  profile.subscribe((s) => {
    clearTimeout(timer);
    timer = setTimeout(() => void api.saveSettings(settingsOf(s)).catch(() => {}), KEEP_AFTER);
  });
}
