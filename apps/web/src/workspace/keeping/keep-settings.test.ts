import { api } from '../../api/api.ts';
import { createProfileState } from '../../state/settings-store.ts';
import { keepSettings } from './keep-settings.ts';

/*
 * The settings of a profile between pages and the server, which merges by name as
 * `settings.repository.ts` does.
 */

let server: Record<string, unknown>;
let reachable: boolean;
const sent: object[] = [];
jest.spyOn(api, 'profile').mockImplementation(async () => ({ name: '', earlier: false }));
jest.spyOn(api, 'settings').mockImplementation(async () => {
  if (!reachable) throw new Error('away');
  return { values: { ...server } };
});
jest.spyOn(api, 'saveSettings').mockImplementation(async (values) => {
  if (!reachable) throw new Error('away');
  sent.push(values);
  Object.assign(server, values);
});

const listeners = new Map<string, () => void>();
beforeEach(() => {
  jest.useFakeTimers();
  [server, reachable] = [{}, true];
  sent.length = 0;
  localStorage.removeItem('bathyscope-settings');
  localStorage.removeItem('bathyscope-settings-unsent');
  Object.assign(window, {
    addEventListener: (name: string, told: () => void) => void listeners.set(name, told),
  });
});
afterEach(() => jest.useRealTimers());

const opened = async () => {
  const profile = createProfileState();
  await keepSettings(profile);
  return profile;
};
const rest = () => jest.advanceTimersByTimeAsync(700);

test('two pages: each keeps what was changed in it, and nothing else; what no page of this version knows stays', async () => {
  server = { theme: 'abyss', trail: { colour: 'green' }, unit: 'furlong' };
  const [one, two] = [await opened(), await opened()];
  expect([one.getState().theme, one.getState().unit]).toEqual(['abyss', 'mm']);
  one.getState().change({ helm: true });
  await rest();
  two.getState().change({ precision: 5 });
  await rest();
  expect(sent).toEqual([{ helm: true }, { precision: 5 }]);
  expect(server).toEqual({
    theme: 'abyss',
    trail: { colour: 'green' },
    unit: 'furlong',
    helm: true,
    precision: 5,
  });
});

test('a page that is left right after a change sends it then', async () => {
  const profile = await opened();
  profile.getState().change({ theme: 'abyss' });
  listeners.get('pagehide')!();
  await Promise.resolve();
  expect(server).toEqual({ theme: 'abyss' });
});

test('what could not be sent outlives the page: the next one shows it and sends it, whatever the server still says', async () => {
  server = { theme: 'chart', helm: true };
  const left = await opened();
  reachable = false;
  left.getState().change({ theme: 'abyss' });
  await rest();
  expect(server['theme']).toBe('chart');
  // Away while it opens, too.
  const offline = await opened();
  offline.getState().change({ precision: 2 });
  await rest();
  reachable = true;
  const next = await opened();
  expect([next.getState().theme, next.getState().precision, next.getState().helm]).toEqual([
    'abyss',
    2,
    true,
  ]);
  await rest();
  expect(server).toEqual({ theme: 'abyss', helm: true, precision: 2 });
  expect(localStorage.getItem('bathyscope-settings-unsent')).toBe('[]');
  // Sent once.
  const count = sent.length;
  await opened();
  await rest();
  expect(sent).toHaveLength(count);
});

test('a change while an older one is on its way is sent after it', async () => {
  const profile = await opened();
  let arrive = () => {};
  jest.mocked(api.saveSettings).mockImplementationOnce(
    (values) =>
      new Promise<void>((done) => {
        arrive = () => (sent.push(values), Object.assign(server, values), done());
      }),
  );
  profile.getState().change({ precision: 1 });
  await rest();
  profile.getState().change({ precision: 2 });
  await rest();
  expect(sent).toEqual([]);
  arrive();
  await rest();
  expect(sent).toEqual([{ precision: 1 }, { precision: 2 }]);
});
