import { gzipSync } from 'node:zlib';

export type Send = (
  method: string,
  url: string,
  body: string | Buffer,
  headers?: Record<string, string>,
) => Promise<Response>;

const settings = (values: string) => `{"values":${values}}`;

/** Bodies that nobody means well by, with the status and the sentence that answer them. */
export const ODD_BODIES: [
  name: string,
  status: number,
  sentence: RegExp,
  ask: (request: Send, model: string) => Promise<Response>,
][] = [
  [
    'NUL in a name',
    400,
    /character that cannot be stored/,
    (request, model) => request('PATCH', `/api/models/${model}`, '{"name":"a\\u0000b"}'),
  ],
  [
    'NUL in a setting, deep within',
    400,
    /character that cannot be stored/,
    (request) => request('PATCH', '/api/settings', settings('{"a":[{"b":"\\u0000"}]}')),
  ],
  [
    'NUL in the name of a setting',
    400,
    /character that cannot be stored/,
    (request) => request('PATCH', '/api/settings', settings('{"\\u0000":1}')),
  ],
  [
    'half of a surrogate pair',
    400,
    /character that cannot be stored/,
    (request) => request('PATCH', '/api/settings', settings('{"a":"\\ud800"}')),
  ],
  [
    'a name with a line break',
    400,
    /one line/,
    (request, model) => request('PATCH', `/api/models/${model}`, '{"name":"a\\nb"}'),
  ],
  [
    'a blank name',
    400,
    /cannot be blank/,
    (request, model) => request('PATCH', `/api/models/${model}`, '{"name":"   "}'),
  ],
  [
    'a name that is none',
    400,
    /is text/,
    (request, model) => request('PATCH', `/api/models/${model}`, '{"name":{"a":1}}'),
  ],
  ['no body', 400, /name/, (request, model) => request('PATCH', `/api/models/${model}`, '')],
  [
    'a body that is no JSON',
    400,
    /not valid JSON/,
    (request) => request('PATCH', '/api/settings', '{"values":'),
  ],
  [
    'a bomb: 4 MB of empty lists in 4 kB',
    413,
    /takes here: 120000 values/,
    (request) =>
      request('PATCH', '/api/settings', gzipSync(settings(`[${'[],'.repeat(1.39e6)}0]`)), {
        'Content-Encoding': 'gzip',
      }),
  ],
  [
    'the same for a name, unpacked no further than a name needs',
    413,
    /takes here: 64 kB/,
    (request, model) =>
      request('PATCH', `/api/models/${model}`, gzipSync(settings(`[${'[],'.repeat(1.39e6)}0]`)), {
        'Content-Encoding': 'gzip',
      }),
  ],
  [
    '5,000 values for a name',
    413,
    /takes here: 2000 values/,
    (request, model) => request('PATCH', `/api/models/${model}`, `[${'0,'.repeat(5e3)}0]`),
  ],
  [
    'a large document for a model that is not there',
    404,
    /no such model/,
    (request) =>
      request(
        'PUT',
        '/api/models/00000000-0000-4000-8000-000000000000/records/00000000-0000-4000-8000-000000000001',
        `"${'x'.repeat(5e6)}"`,
      ),
  ],
  [
    'UTF-16, whose brackets no count of bytes sees',
    415,
    /Send UTF-8/,
    (request) =>
      request('PATCH', '/api/settings', Buffer.from(settings('['.repeat(1e4) + ']'.repeat(1e4)), 'utf16le'), {
        'Content-Type': 'application/json; charset=utf-16',
      }),
  ],
  [
    'a body too large',
    413,
    /larger than the server takes/,
    (request) => request('PATCH', '/api/settings', settings(`"${'x'.repeat(5e6)}"`)),
  ],
  [
    'a body that unpacks to more',
    413,
    /larger than the server takes/,
    (request) =>
      request('PATCH', '/api/settings', gzipSync(settings(`"${'x'.repeat(5e7)}"`)), {
        'Content-Encoding': 'gzip',
      }),
  ],
  [
    'a body packed in an unknown way',
    415,
    /compressed in a way/,
    (request) => request('PATCH', '/api/settings', 'x', { 'Content-Encoding': 'rar' }),
  ],
  [
    'rubbish said to be gzip',
    400,
    /cannot be read|broke off/,
    (request) => request('PATCH', '/api/settings', 'rubbish', { 'Content-Encoding': 'gzip' }),
  ],
  [
    'an unknown character set',
    415,
    /character set/,
    (request) =>
      request('PATCH', '/api/settings', settings('{}'), {
        'Content-Type': 'application/json; charset=klingon',
      }),
  ],
  [
    'brackets 100,000 deep',
    400,
    /nested too deeply/,
    (request) => request('PATCH', '/api/settings', settings('['.repeat(1e5) + ']'.repeat(1e5))),
  ],
  [
    'objects 100,000 deep',
    400,
    /nested too deeply/,
    (request) => request('PATCH', '/api/settings', settings('{"a":'.repeat(1e5) + '1' + '}'.repeat(1e5))),
  ],
  [
    'an identifier that is none',
    400,
    /no identifier/,
    (request) => request('PATCH', '/api/models/%00', '{"name":"x"}'),
  ],
  [
    'an address that cannot be decoded',
    400,
    /cannot be read/,
    (request) => request('PATCH', '/api/models/%E0%A4%A', '{"name":"x"}'),
  ],
  [
    'a picture that is none',
    415,
    /must be a PNG/,
    (request, model) =>
      request('PUT', `/api/models/${model}/thumbnail`, 'no', { 'Content-Type': 'image/png' }),
  ],
  [
    'a picture too large',
    413,
    /takes here: 1 MB/,
    (request, model) =>
      request('PUT', `/api/models/${model}/thumbnail`, Buffer.alloc(2e6), { 'Content-Type': 'image/png' }),
  ],
  [
    'an address that leads nowhere',
    404,
    /nothing at this address/,
    (request) => request('POST', '/api/nothing', '{}'),
  ],
];
