import { api, ApiError } from '../../api/api.ts';
import { readSettings, settingsOf, type SettingValues } from './habits.ts';
import type { Profile } from '../workspace.ts';

/** ms without a change after which settings are kept. */
const KEEP_AFTER = 600;
/** ms between tries while the server cannot be reached. */
const AGAIN = 5000;
/** Where the browser notes which settings the server has not heard of. */
const UNSENT = 'bathyscope-settings-unsent';

type Name = keyof SettingValues;

/**
 * Brings the profile's settings from the server, and keeps later changes there, each by its name: another
 * page, or one of another version, keeps its own. What could not be sent outlives the page, and is sent when
 * the server can be reached again.
 */
export async function keepSettings(profile: Profile): Promise<void> {
  const unsent = new Set(readNames());
  const noted = () => localStorage.setItem(UNSENT, JSON.stringify([...unsent]));
  let timer: ReturnType<typeof setTimeout> | undefined;
  let last = Promise.resolve();
  const send = (): Promise<void> => {
    clearTimeout(timer);
    const sent = [...unsent];
    if (!sent.length) return Promise.resolve();
    const before = settingsOf(profile.getState());
    return api.saveSettings(Object.fromEntries(sent.map((name) => [name, before[name]]))).then(
      () => {
        const now = settingsOf(profile.getState());
        for (const name of sent) if (now[name] === before[name]) unsent.delete(name);
        noted();
      },
      // What the server refuses it would refuse again; it goes along with the next change.
      (error: unknown) => (isRefusal(error) ? undefined : later(AGAIN)),
    );
  };
  // One after the other, or an older value might arrive last.
  const sendInTurn = () => void (last = last.then(send));
  const later = (ms: number) => {
    clearTimeout(timer);
    timer = setTimeout(sendInTurn, ms);
  };
  const change = (names: readonly Name[]) => {
    for (const name of names) unsent.add(name);
    noted();
    later(KEEP_AFTER);
  };
  let taking = false;
  profile.subscribe((now, before) => {
    const changed = (Object.keys(settingsOf(now)) as Name[]).filter((name) => now[name] !== before[name]);
    if (changed.length && !taking) change(changed);
  });
  // A page that is left sends what it has at once; the browser carries it on.
  window.addEventListener('pagehide', () => void send());
  window.addEventListener('online', sendInTurn);

  // A browser without a profile gets one before anything is kept, so that all of it is kept under one.
  const values = await api
    .profile()
    .then(() => api.settings())
    .then(
      (answer) => answer.values ?? {},
      () => null,
    );
  if (values) {
    // What was changed meanwhile, or was never sent, is the newer.
    const known = Object.entries(readSettings(values)).filter(([name]) => !unsent.has(name as Name));
    taking = true;
    profile.getState().change(Object.fromEntries(known));
    taking = false;
  }
  if (unsent.size) later(0);
}

const isRefusal = (error: unknown): boolean =>
  error instanceof ApiError && error.status >= 400 && error.status < 500;

function readNames(): Name[] {
  try {
    const names: unknown = JSON.parse(localStorage.getItem(UNSENT) ?? '[]');
    return Array.isArray(names) ? names.filter((name): name is Name => typeof name === 'string') : [];
  } catch {
    return [];
  }
}
