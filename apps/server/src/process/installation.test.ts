import { addressOf, installation } from './installation.ts';

test('what is not set is as the table of settings says; what is set is read', () => {
  expect(installation({})).toMatchObject({
    PORT: 4600,
    HOST: '127.0.0.1',
    BATHYSCOPE_BIN_DAYS: 30,
    BATHYSCOPE_MAX_UPLOAD_MB: 500,
  });
  expect(installation({}).BATHYSCOPE_HOSTS).toEqual(['localhost', '127.0.0.1', '[::1]']);
  expect(installation({ PORT: '4700', BATHYSCOPE_HOSTS: ' CAD.local ,10.0.0.7,' })).toMatchObject({
    PORT: 4700,
    BATHYSCOPE_HOSTS: ['cad.local', '10.0.0.7'],
  });
});

test.each([
  ['PORT', 'eighty', /PORT is “eighty”. It is where the server listens: a number from 1 to 65,535/],
  ['PORT', '0', /PORT is “0”/],
  ['BATHYSCOPE_BIN_DAYS', '1e9', /from 1 to 3,650/],
  ['BATHYSCOPE_BIN_DAYS', '-3', /from 1 to 3,650/],
  ['BATHYSCOPE_MAX_UPLOAD_MB', '500 MB', /largest file/],
  ['BATHYSCOPE_HOSTS', 'http://cad.local:4600', /without http:\/\/ and port/],
  ['BATHYSCOPE_BASE', '/a b/', /path that the server stands under/],
  ['BATHYSCOPE_BASE', '/a/../b', /path that the server stands under/],
  ['BATHYSCOPE_PROXY', 'everybody', /proxies that are believed/],
  ['BATHYSCOPE_PROXY', '10.0.0.1, 10.0.0.0/99', /proxies that are believed/],
  ['BATHYSCOPE_HOSTS', ' , ', /names that the server answers to/],
])('%s=%s ends the start with what it can be', (name, value, sentence) => {
  expect(() => installation({ [name]: value })).toThrow(sentence);
});

test('all that is wrong is said at once', () => {
  expect(() => installation({ PORT: 'x', BATHYSCOPE_SILENCE_S: 'y' })).toThrow(
    /PORT is “x”[\s\S]*BATHYSCOPE_SILENCE_S is “y”/,
  );
});

test('a path is the same however its slashes are put, and proxies are a list', () => {
  for (const path of ['bathyscope', '/bathyscope', 'bathyscope/', ' /bathyscope// '])
    expect(installation({ BATHYSCOPE_BASE: path }).BATHYSCOPE_BASE).toBe('/bathyscope/');
  expect(installation({}).BATHYSCOPE_BASE).toBe('/');
  expect(installation({ BATHYSCOPE_PROXY: 'loopback, 10.1.0.0/16,fd00::1' }).BATHYSCOPE_PROXY).toEqual([
    'loopback',
    '10.1.0.0/16',
    'fd00::1',
  ]);
  expect(installation({}).BATHYSCOPE_PROXY).toEqual([]);
});

test.each([
  [{}, 'http://localhost:4600/'],
  [{ HOST: '0.0.0.0', BATHYSCOPE_HOSTS: 'cad.local', PORT: '80' }, 'http://cad.local:80/'],
  [{ HOST: '10.0.0.7', BATHYSCOPE_HOSTS: 'localhost,10.0.0.7' }, 'http://10.0.0.7:4600/'],
  [{ HOST: '10.0.0.7', BATHYSCOPE_HOSTS: 'cad.local' }, 'http://cad.local:4600/'],
  [{ HOST: 'fd00::1', BATHYSCOPE_HOSTS: '[fd00::1]', BATHYSCOPE_BASE: 'cad' }, 'http://[fd00::1]:4600/cad/'],
])('with %j the address that is told answers: %s', (env, address) => {
  expect(addressOf(installation(env))).toBe(address);
});
